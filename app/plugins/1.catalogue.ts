import { problemOf } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Every screen needs the catalogue; it travels with the page, so that the browser does not ask again. */
export default defineNuxtPlugin(async () => {
  const store = useCatalogue()
  if (store.facts || store.way !== 'unknown') return
  try {
    await store.load()
  } catch (error) {
    const { status, title, detail } = problemOf(error)
    throw createError({
      statusCode: status || 500,
      statusMessage: title,
      message: detail || 'The workspace cannot be read.',
      fatal: true,
    })
  }
})
