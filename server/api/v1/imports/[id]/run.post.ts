import { actingKey } from '../../../../engine/acting'

/** Begins an import, or goes on with one that was stopped. Answers at once; open screens hear how far it has come. */
export default defineRouteBehind(
  'POST /imports/:id/run',
  async ({ workspace, params: { id } }) =>
    workspace.store.imports.stateOf(id) === 'ready' ? (await useBulk().ask('preview', id)).mappingProblems : [],
  ({ workspace, params: { id }, body: { rulesOn } }, mappingProblems) => {
    const { imports } = workspace.store
    const state = imports.stateOf(id)
    if (state === null) throw notFound(`import ${id}`)
    if (state === 'running' || state === 'done') throw new ProblemError({ code: 'importStarted' })
    if (mappingProblems.length > 0)
      throw new ProblemError(
        { code: 'columnsWrong' },
        mappingProblems.map(({ heading, text }) => ({ path: heading, text })),
      )
    imports.setKey(id, actingKey())
    if (state === 'ready') imports.begin(id, rulesOn)
    else imports.setState(id, 'running')
    // The worker looks for it in the database: it hears of it when it is there.
    workspace.db.afterwards(() => useBulk().import(id))
    return { state: 'running' }
  },
)
