import { activityKinds } from '../../../views/activity-kinds'

export default defineRoute('GET /activity-kinds', ({ workspace }) => ({ kinds: activityKinds(workspace) }))
