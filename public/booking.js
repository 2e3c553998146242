// @ts-check
/** On a booking page: shows times in the zone of who looks, and says which visitor books. */
;(() => {
  const query = new URLSearchParams(location.search)
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions()
  if (!query.has('zone') && timeZone && location.pathname !== '/book') {
    query.set('zone', timeZone)
    location.replace(`${location.pathname}?${query}`)
    return
  }
  const field = /** @type {HTMLInputElement | null} */ (document.querySelector('[data-visitor]'))
  try {
    if (field) field.value = localStorage.getItem('sky-lever-visitor') ?? ''
  } catch {
    // A browser that keeps nothing is nobody who was seen before.
  }
})()
