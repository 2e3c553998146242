/** What the states of a run are called. */
export const STATE_WORDS: Readonly<Record<string, string>> = {
  running: 'Running',
  waiting: 'Waiting',
  done: 'Done',
  stopped: 'Stopped',
  failed: 'Failed',
}

/** How the state of a run is framed. */
export const stateTone = (state: string): string =>
  state === 'done'
    ? 'border-moss text-moss'
    : state === 'failed'
      ? 'border-brick text-brick'
      : state === 'waiting'
        ? 'border-saffron text-saffron'
        : 'border-ink2 text-ink2'
