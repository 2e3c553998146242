/** The longest that the clock is turned in one go, in days. */
const TURN_MOST = 800

export default defineRoute('POST /clock', ({ workspace, body: { toMs } }) => {
  if (!workspace.catalogue().workspace.demo)
    throw new ProblemError(
      409,
      'A real clock',
      'The clock of this workspace is the real one; only that of a demo can be turned.',
    )
  const nowMs = workspace.clock.nowMs()
  if (toMs <= nowMs)
    throw new ProblemError(422, 'Not saved', 'The clock can only move forward.', [
      { path: 'toMs', text: 'Choose a time in the future.' },
    ])
  if (toMs > nowMs + TURN_MOST * 86_400_000)
    throw new ProblemError(422, 'Not saved', 'That is too far.', [
      { path: 'toMs', text: `at most ${TURN_MOST} days at once` },
    ])
  useBulk().turn(toMs)
  return { nowMs, toMs }
})
