import { z } from 'zod'
import { OBJECTS } from '../../../../../core/records/kinds'
import { zValue } from '../../../../../core/rules/values'

const params = z.object({ object: z.enum(OBJECTS) })
const body = z.strictObject({
  values: z.record(z.string().max(100), zValue),
  links: z.array(z.strictObject({ object: z.enum(OBJECTS), id: z.number().int().positive() })).max(20).default([]),
})

/** Creates a record and lets rules see it. */
export default defineRoute({ route: 'POST /records/:object', params, body }, ({ workspace, person, scope, params: { object }, body: { values, links } }) => {
  for (const link of links) visibleRecord({ workspace, scope }, link)
  const { ref, reports } = workspace.create(object, values, links, person.id)
  return { ref, runs: reports.length }
})
