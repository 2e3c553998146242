import { RETENTION } from '../../../../../core/records/retention'
import { setRetention } from '../../../../engine/retention'

export default defineRoute('PUT /storage/:kind', ({ workspace, person, params: { kind }, body: { days } }) => {
  const { least, title } = RETENTION[kind]
  if (days !== null && days < least)
    throw new ProblemError(422, 'Time not saved', 'Nothing was changed.', [
      { path: 'days', text: `${title}: ${least} days or more, because rules and rehearsals look back that far.` },
    ])
  setRetention(workspace, kind, days, person.id)
  return { ok: true }
})
