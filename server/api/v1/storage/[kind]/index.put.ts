import { RETENTION } from '../../../../../core/records/retention'
import { setRetention } from '../../../../engine/retention'

export default defineRoute('PUT /storage/:kind', ({ workspace, person, params: { kind }, body: { days } }) => {
  const { least, title } = RETENTION[kind]
  if (days !== null && days < least) throw new ProblemError({ code: 'storageTooShort', what: title, days: least })
  setRetention(workspace, kind, days, person.id)
  return { ok: true }
})
