import { changeSegment } from '../../../engine/segments'

export default defineRoute(
  'PATCH /segments/:id',
  ({ workspace, person, params: { id }, body: { name, filter, columns, sort, down } }) => {
    const segment = workspace.store.segments.get(id)
    if (!segment) throw notFound(`segment ${id}`)
    if (filter) fitting(filter, segment.object)
    changeSegment(
      workspace,
      segment,
      {
        ...(name === undefined ? {} : { name }),
        ...(filter === undefined ? {} : { filter }),
        ...(columns === undefined ? {} : { columns }),
        ...(sort === undefined ? {} : { sort }),
        ...(down === undefined ? {} : { down }),
      },
      person.id,
    )
    return { ok: true }
  },
)
