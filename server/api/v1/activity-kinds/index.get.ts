import { ACTIVITIES, ACTIVITY_NAMES } from '../../../../core/activities'
import { activitySchema } from '../../../../core/activities/data'

export default defineRoute('GET /activity-kinds', () => ({
  kinds: ACTIVITY_NAMES.map((kind) => {
    const { does, about, example } = ACTIVITIES[kind]
    return { kind, does, about, schema: { ...activitySchema(kind) }, example }
  }),
}))
