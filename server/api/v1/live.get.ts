/** Tells open screens what changed, as server-sent events (WHATWG HTML, 9.2). */
export default defineEventHandler((event) => {
  const workspace = useWorkspace()
  personOf(event, workspace)
  const stream = createEventStream(event)
  const stop = workspace.live.listen((message) => void stream.push(JSON.stringify(message)))
  // A first message tells the screen that it hears from here on.
  void stream.push({ event: 'hello', data: String(workspace.clock.nowMs()) })
  stream.onClosed(async () => {
    stop()
    await stream.close()
  })
  return stream.send()
})
