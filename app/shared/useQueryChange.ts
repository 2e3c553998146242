import type { LocationQueryRaw } from 'vue-router'

/**
 * Puts values into the address of the page, beside those that stand there; what is empty is left out. All that is put
 * there quickly one after the other stays, also what comes while the address is still changing.
 */
export function useQueryChange(): (change: Readonly<Record<string, string | undefined>>) => Promise<void> {
  // Not `navigateTo`: it does nothing while another change is on its way.
  const router = useRouter()
  let coming: LocationQueryRaw | null = null
  return async (change) => {
    const query: LocationQueryRaw = { ...(coming ?? router.currentRoute.value.query) }
    for (const [key, value] of Object.entries(change)) query[key] = value || undefined
    coming = query
    await router.replace({ query })
    if (coming === query) coming = null
  }
}
