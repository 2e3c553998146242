import { RETENTION_KINDS } from '../../../../core/records/retention'
import { daysOf } from '../../../engine/retention'

export default defineRoute('GET /storage', async ({ workspace }) => {
  const { file, free, kinds } = await useReader().ask('storage', null)
  const said = workspace.store.retention.all()
  return {
    bytes: file,
    freeBytes: free,
    kinds: RETENTION_KINDS.map((kind) => ({
      kind,
      days: daysOf(kind, said.get(kind)),
      cutMs: said.get(kind)?.cutMs ?? null,
      ...kinds[kind],
    })),
  }
})
