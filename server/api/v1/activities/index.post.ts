import { tellHappenings } from '../../../engine/happenings'

/** More at once would keep others waiting here: the thread that works in bulk lets them in between. */
const FEW = 20

/** Keeps what happened; scores follow, and rules that go by them. */
export default defineRouteAwaiting('POST /activities', async ({ workspace, body }) => {
  const given = body.happenings.map(({ ref, email, kind, about, data, atMs, key }) => ({
    record: ref ?? { email: email ?? '' },
    kind,
    about,
    data,
    atMs,
    key,
  }))
  return given.length <= FEW ? tellHappenings(workspace, given) : await useBulk().ask('tellHappenings', given)
})
