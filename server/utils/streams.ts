/** Answers that go on as long as somebody listens. */
const ends = new Set<() => void>()

/** Has an answer that goes on end with the server; what comes back takes it out again, once it ended by itself. */
export function endWithServer(end: () => void): () => void {
  ends.add(end)
  return () => void ends.delete(end)
}

/** Ends all of them: a server that waits for open pages to let go would wait until it is killed. */
export function endStreams(): void {
  for (const end of [...ends]) end()
  ends.clear()
}
