import { tellActivities } from '../../../engine/activities'

/** More at once would keep others waiting here: the thread that works in bulk lets them in between. */
const FEW = 20

/** Keeps what happened; scores follow, and rules that go by them. */
export default defineRouteAwaiting('POST /activities', async ({ workspace, body }) => {
  const given = body.activities.map(({ ref, email, kind, about, data, atMs, key }) => ({
    record: ref ?? { email: email ?? '' },
    kind,
    about,
    data,
    atMs,
    key,
  }))
  return given.length <= FEW ? tellActivities(workspace, given) : await useBulk().ask('tellActivities', given)
})
