// @ts-check
/**
 * For the pages of a website: tells the workspace which page was visited and which form was sent, by a random key that
 * stays in this browser. Nothing is read of the browser, the screen or the device, and nothing comes from anywhere else.
 *
 *   <script src="https://sky-lever.example/site.js" defer></script>
 *   <form data-report="Site visit"> … <input type="email" name="email"> … </form>
 *
 * It does nothing where the browser says that people are not to be followed (Global Privacy Control, Do Not Track). With
 * data-consent="wait" it does nothing until skyLever.consent(true) is called; consent(false) forgets the key.
 */
;(() => {
  const script = /** @type {HTMLScriptElement | null} */ (document.currentScript)
  if (!script) return
  const navigator_ = /** @type {Navigator & { globalPrivacyControl?: boolean }} */ (navigator)
  const refused = navigator_.globalPrivacyControl === true || navigator_.doNotTrack === '1'
  const KEY = 'sky-lever-visitor'
  const CONSENT = 'sky-lever-consent'
  const to = new URL('site/activities', script.src).href
  const random = () => crypto.randomUUID().replaceAll('-', '')

  /** @param {string} name */
  const read = (name) => {
    try {
      return localStorage.getItem(name)
    } catch {
      return null
    }
  }
  /** @param {string} name @param {string | null} value */
  const keep = (name, value) => {
    try {
      if (value === null) localStorage.removeItem(name)
      else localStorage.setItem(name, value)
    } catch {
      // A browser that keeps nothing: every page is a new visitor's.
    }
  }

  /** @param {string} text */
  const short = (text) => text.slice(0, 500)
  let asked = !refused && (script.dataset.consent !== 'wait' || read(CONSENT) === 'yes')
  let visitor = read(KEY)
  let last = ''

  /** Of a link that was sent to somebody: who follows it is known from then on. */
  const person = new URLSearchParams(location.search).get('for') ?? undefined
  /** @param {'visit' | 'form' | 'link'} kind @param {string} about @param {object} data @param {string} [email] */
  const tell = (kind, about, data, email) => {
    if (!asked) return
    if (!visitor) keep(KEY, (visitor = random()))
    const body = JSON.stringify({ visitor, key: random(), kind, about: short(about), data, email, person })
    if (!navigator.sendBeacon(to, body)) void fetch(to, { method: 'POST', body, keepalive: true, mode: 'no-cors' })
  }
  const visited = () => {
    const query = new URLSearchParams(location.search)
    query.delete('for')
    const page = `${location.pathname}${query.size ? `?${query}` : ''}`
    if (page === last) return
    if (person && !last) tell('link', page, {})
    tell('visit', page, { title: short(document.title), ...(last ? { from: short(last) } : {}) })
    last = page
  }

  addEventListener('submit', ({ target }) => {
    if (!(target instanceof HTMLFormElement) || target.dataset.report === undefined) return
    let email
    const answers = []
    for (const one of target.elements) {
      if (!(one instanceof HTMLInputElement || one instanceof HTMLTextAreaElement || one instanceof HTMLSelectElement))
        continue
      if (!one.name || !one.value || ['password', 'hidden', 'file', 'submit'].includes(one.type)) continue
      if ((one.type === 'checkbox' || one.type === 'radio') && !(/** @type {HTMLInputElement} */ (one).checked)) continue
      if (one.type === 'email' && !email) email = one.value
      else answers.push(`${one.name}: ${one.value}`)
    }
    const page = short(location.pathname)
    tell('form', target.dataset.report || target.name || page, { answers: answers.join('\n').slice(0, 5000), page }, email)
  })
  addEventListener('popstate', visited)

  Object.assign(window, {
    skyLever: {
      /** For pages that change without being loaded. */
      visited,
      /** @param {boolean} yes */
      consent(yes) {
        if (refused) return
        keep(CONSENT, yes ? 'yes' : null)
        asked = yes
        if (yes) visited()
        else {
          keep(KEY, null)
          visitor = null
          last = ''
        }
      },
    },
  })
  visited()
})()
