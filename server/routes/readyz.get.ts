/** Whether it can serve: the database answers and the bulk worker runs. */
export default defineEventHandler((event) => {
  const found: { database: string; worker: string } = { database: 'answers', worker: 'runs' }
  try {
    useWorkspace().store.revisions.now()
  } catch (error) {
    found.database = error instanceof Error ? error.message : String(error)
  }
  try {
    if (!useBulk().running || !useReader().running) found.worker = 'could not be started'
  } catch (error) {
    found.worker = error instanceof Error ? error.message : String(error)
  }
  const ok = found.database === 'answers' && found.worker === 'runs'
  if (!ok) setResponseStatus(event, 503)
  return { ok, ...found }
})
