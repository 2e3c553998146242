/** Every screen needs the catalogue; it travels with the page, so that the browser does not ask again. */
export default defineNuxtPlugin(async () => {
  const store = useCatalogue()
  if (store.facts) return
  try {
    await store.load()
  } catch (error) {
    const status = (error as { status?: number }).status ?? 500
    const detail = (error as { data?: { detail?: string } }).data?.detail
    throw createError({ statusCode: status, statusMessage: 'Cannot open the workspace', message: detail ?? 'The workspace cannot be read.', fatal: true })
  }
})
