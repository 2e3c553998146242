import { makeActivityKind } from '../../../engine/activity-kinds'

export default defineRoute('POST /activity-kinds', ({ workspace, body }) => ({
  kind: makeActivityKind(workspace, body),
}))
