/** Stops an import after the rows that are being written. What is in stays; the rest waits until somebody goes on. */
export default defineRoute('POST /imports/:id/stop', ({ workspace, params: { id } }) => {
  const { imports } = workspace.store
  const state = imports.stateOf(id)
  if (state === null) throw notFound(`import ${id}`)
  if (state !== 'running') throw new ProblemError({ code: 'importNotRunning' })
  imports.setState(id, 'stopped')
  workspace.live.tell({ about: 'imports', id })
  return { state: 'stopped' }
})
