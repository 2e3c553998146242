/** The longest that the clock is turned in one go, in days. */
const TURN_MOST = 800

export default defineRoute('POST /clock', ({ workspace, body: { toMs } }) => {
  if (!workspace.catalogue().workspace.demo) throw new ProblemError({ code: 'clockReal' })
  const nowMs = workspace.clock.nowMs()
  if (toMs <= nowMs) throw new ProblemError({ code: 'timePassed' })
  if (toMs > nowMs + TURN_MOST * 86_400_000) throw new ProblemError({ code: 'clockTooFar', days: TURN_MOST })
  useBulk().turn(toMs)
  return { nowMs, toMs }
})
