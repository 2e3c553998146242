import { ACTIVITIES, ACTIVITY_NAMES, activitySchema } from '../../../../core/activities'

export default defineRoute('GET /activity-kinds', () => ({
  kinds: ACTIVITY_NAMES.map((kind) => {
    const { does, about, example } = ACTIVITIES[kind]
    return { kind, does, about, schema: { ...activitySchema(kind) }, example }
  }),
}))
