import type { LocationQuery, LocationQueryRaw } from 'vue-router'

type Change = Readonly<Record<string, string | undefined>>

/**
 * Puts values into the address of the page, beside those that stand there; what is empty is left out. All that is put
 * there quickly one after the other stays, also what comes while the address is still changing; a change that hangs on
 * what stands there is asked with that. With `push` one may go back to what was there before.
 */
export function useQueryChange(
  how: 'replace' | 'push' = 'replace',
): (change: Change | ((query: LocationQuery) => Change)) => Promise<void> {
  // Not `navigateTo`: it does nothing while another change is on its way.
  const router = useRouter()
  let coming: LocationQueryRaw | null = null
  return async (change) => {
    const query: LocationQueryRaw = { ...(coming ?? router.currentRoute.value.query) }
    const asked = typeof change === 'function' ? change(query as LocationQuery) : change
    for (const [key, value] of Object.entries(asked)) query[key] = value || undefined
    coming = query
    await router[how]({ query })
    if (coming === query) coming = null
  }
}
