/** Keeps where columns go. When the rows turn out to be something else, the columns are guessed anew. */
export default defineRouteBehind(
  'PUT /imports/:id/mapping',
  async ({ workspace, params: { id }, body }) => {
    const row = workspace.store.imports.get(id)
    return row && row.mapping.object !== body.object
      ? await useReader().ask('guess', { content: row.content, object: body.object, before: false })
      : null
  },
  ({ workspace, params: { id }, body }, guess) => {
    const row = workspace.store.imports.get(id)
    if (!row) throw notFound(`import ${id}`)
    if (row.state !== 'ready') throw new ProblemError({ code: 'columnsFixed' })
    if (guess && guess.problem !== null) throw new ProblemError({ code: 'fileUnreadable', said: guess.problem })
    workspace.store.imports.setMapping(id, guess?.mapping ?? body)
    return { ok: true }
  },
)
