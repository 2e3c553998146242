export default defineRoute(
  'GET /rehearsals/:id/lines',
  async ({ params: { id }, query: { object, record, day, owner, limit } }) => {
    const found = rehearsalOf(id)
    const view =
      found && found.state !== 'running'
        ? await useRehearsals().ask('rehearsed', {
            id,
            ref: object !== undefined && record !== undefined ? { object, id: record } : null,
            day: day ?? null,
            ownerId: owner ?? null,
            limit,
          })
        : null
    if (!view) throw notFound(`results for rehearsal ${id}`)
    return view
  },
)
