import { sayDate } from '../../core/time/say'
import { dateAt } from '../../core/time/dates'
import { defineProblem, type Found } from './problem'

const DAYS_BEFORE = 14

/** Keys that end soon, and connections whose secrets cannot be read here. */
export const expiring = defineProblem({
  kind: 'expiring',
  title: 'Keys and secrets',
  fix: 'Make a new key, or enter the secret anew, and give it to whoever uses it.',
  find(workspace) {
    const { store, clock } = workspace
    const nowMs = clock.nowMs()
    const { zone } = workspace.catalogue().workspace
    const keys = store.keys.list(null).flatMap(({ id, name, personId, expiresAt }): Found[] => {
      if (expiresAt === null || expiresAt > nowMs + DAYS_BEFORE * 86_400_000) return []
      const whose = workspace.catalogue().person(personId)?.name ?? personId
      const day = sayDate(dateAt(expiresAt, zone))
      return [
        {
          key: `key ${id}`,
          says: `API key “${name}” of ${whose} ${expiresAt <= nowMs ? 'expired' : 'expires'} on ${day}`,
          count: 1,
          path: '/account',
        },
      ]
    })
    const connections = (workspace.catalogue().data.connections ?? []).flatMap(
      ({ id, name, address, archived }): Found[] =>
        archived || address === '' || store.connections.secrets(id) !== null
          ? []
          : [
              {
                key: `connection ${id}`,
                says: `The secrets of connection “${name}” can’t be read: the file came without its key`,
                count: 1,
                path: '/messages/web',
              },
            ],
    )
    return [...keys, ...connections]
  },
})
