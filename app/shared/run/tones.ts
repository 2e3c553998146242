/** How the state of a run is framed. */
export const stateTone = (state: string): string =>
  state === 'done'
    ? 'border-moss text-moss'
    : state === 'failed'
      ? 'border-brick text-brick'
      : state === 'waiting'
        ? 'border-saffron text-saffron'
        : 'border-ink2 text-ink2'
