import { tellHappenings } from '../../../engine/happenings'

/** Keeps what happened; scores follow, and rules that go by them. */
export default defineRoute('POST /activities', ({ workspace, body }) =>
  tellHappenings(
    workspace,
    body.happenings.map(({ ref, email, kind, about, atMs, key }) => ({
      record: ref ?? { email: email ?? '' },
      kind,
      about,
      atMs,
      key,
    })),
  ),
)
