import { count, plural } from '../../core/language/counts'
import { defineProblem } from './problem'

const DAYS = 90

/** Addresses of contacts to which messages came back. */
export const bounced = defineProblem({
  kind: 'bounced',
  title: 'Addresses that bounce',
  fix: 'Correct the addresses of the contacts, or allow them again under Messages, Sending.',
  find(workspace) {
    const catalogue = workspace.catalogue()
    const email = catalogue.field('contact', 'email')
    const phone = catalogue.field('contact', 'phone')
    if (!email) return []
    const found = workspace.store.problems.bounced(
      workspace.clock.nowMs() - DAYS * 86_400_000,
      email.id,
      phone?.id ?? null,
    )
    const [first] = found
    return first
      ? [
          {
            key: 'contact',
            says: `${count(found.length, 'address')} ${plural(found.length, 'bounces', 'bounce')}, ${first.address}${found.length > 1 ? ' among them' : ''}`,
            count: found.length,
            path: '/messages/settings',
          },
        ]
      : []
  },
})
