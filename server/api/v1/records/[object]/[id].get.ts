import { z } from 'zod'
import { OBJECTS } from '../../../../../core/records/kinds'
import { recordPage } from '../../../../views/record'

const params = z.object({ object: z.enum(OBJECTS), id: z.coerce.number().int().positive() })

export default defineRoute({ act: 'read', params }, ({ workspace, params: ref }) => {
  const page = recordPage(workspace, ref)
  if (!page) throw notFound(`${ref.object} ${ref.id}`)
  return page
})
