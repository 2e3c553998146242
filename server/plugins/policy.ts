/** For what is no page of ours: data, and the few words that lead elsewhere. */
const NOTHING = "default-src 'none'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'"

/**
 * Only a rendered page gets a nonce; whatever else went out under its policy had the empty pattern for one, which would
 * have been a nonce everybody knows. What is no page may run, load and frame nothing at all.
 */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('beforeResponse', (event) => {
    const policy = String(getResponseHeader(event, 'content-security-policy') ?? '')
    if (policy.includes('{{nonce}}') || (policy === '' && event.path.startsWith('/api/')))
      setResponseHeader(event, 'content-security-policy', NOTHING)
  })
})
