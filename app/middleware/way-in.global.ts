import { ACT_WORDS } from '#core/access/acts'
import { actOfPath } from '~/shared/paths'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Leads whoever is not signed in to the door, and back to where they wanted to go. */
export default defineNuxtRouteMiddleware((to) => {
  const store = useCatalogue()
  if (store.way === 'empty') return to.path === '/set-up' ? undefined : navigateTo('/set-up')
  if (store.way === 'out')
    return to.path === '/sign-in'
      ? undefined
      : navigateTo({ path: '/sign-in', query: to.fullPath === '/' ? {} : { to: to.fullPath } })
  const act = actOfPath(to.path)
  if (!store.may(act))
    return abortNavigation(
      createError({
        statusCode: 403,
        statusMessage: 'Not allowed',
        message: `${store.me?.name} may not ${ACT_WORDS[act]}.`,
        fatal: true,
      }),
    )
  return to.path === '/sign-in' || to.path === '/set-up' ? navigateTo('/day-sheet') : undefined
})
