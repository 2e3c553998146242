/**
 * What is answered is somebody's own: no browser or proxy keeps it. Files of the application say otherwise themselves.
 */
export default defineEventHandler((event) => {
  if (!event.path.startsWith('/_nuxt/')) setResponseHeader(event, 'cache-control', 'no-store')
})
