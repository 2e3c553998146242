export const BASE = 'http://localhost:3117'
/** The specialist's cookie. */
export const SIGNED_IN = 'test-results/signed-in.json'
