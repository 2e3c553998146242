import { z } from 'zod'
import { OBJECTS } from '../../../../../core/records/kinds'
import { recordPage } from '../../../../views/record'

const params = z.object({ object: z.enum(OBJECTS), id: z.coerce.number().int().positive() })

export default defineRoute({ route: 'GET /records/:object/:id', params }, ({ workspace, scope, params: ref }) => {
  visibleRecord({ workspace, scope }, ref)
  const page = recordPage(workspace, ref)
  if (!page) throw notFound(`${ref.object} ${ref.id}`)
  return page
})
