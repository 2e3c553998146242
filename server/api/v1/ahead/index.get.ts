const DAY_MS = 86_400_000
const USUAL_DAYS = 92
/** Further ahead nobody plans, and every moment of it would be looked at. */
const MOST_DAYS = 800

export default defineRoute(
  'GET /ahead',
  async ({ workspace, scope, query: { from, to, rule, owner, object, record, limit } }) => {
    const nowMs = workspace.clock.nowMs()
    const [fromMs, toMs] = [from ?? nowMs, to ?? Math.max(nowMs, from ?? nowMs) + USUAL_DAYS * DAY_MS]
    if (toMs - fromMs > MOST_DAYS * DAY_MS) throw new ProblemError({ code: 'periodTooLong', days: MOST_DAYS })
    return useReader().ask('ahead', {
      fromMs,
      toMs,
      ruleId: rule,
      ownerId: owner,
      ref: object !== undefined && record !== undefined ? { object, id: record } : undefined,
      limit,
      scope,
    })
  },
)
