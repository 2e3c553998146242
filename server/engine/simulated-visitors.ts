import { randomBytes, randomInt } from 'node:crypto'
import { signed } from './signed-link'
import { takeReport, type VisitorReport } from './visitor-report'
import type { Workspace } from './workspace'
import { WEBSITE_PATHS } from '../stand-ins/website'

const PAGES_MOST = 4
/** Every so manieth visitor comes by a link that was sent to a contact. */
const KNOWN_EVERY = 2

/** Sends visitors to the website of the demo's firm, through its front door; answers how many pages they opened. */
export function sendCrowd(workspace: Workspace, visitors: number): number {
  const contacts = workspace.store.records.behind('contact', 0, 1000)
  const random = () => randomBytes(16).toString('hex')
  let pages = 0
  for (let i = 0; i < visitors; i++) {
    const visitor = random()
    const contact = i % KNOWN_EVERY === 0 && contacts.length > 0 ? contacts[randomInt(contacts.length)] : undefined
    const person = contact && signed(workspace, 'contact', contact.id)
    const tell = (kind: VisitorReport['kind'], about: string): void =>
      takeReport(workspace, { visitor, key: random(), kind, about, data: {}, ...(person ? { person } : {}) })
    if (person) tell('link', '/website')
    for (let left = randomInt(PAGES_MOST) + 1; left > 0; left--) {
      tell('visit', `/website/${WEBSITE_PATHS[randomInt(WEBSITE_PATHS.length)] ?? ''}`)
      pages++
    }
  }
  return pages
}
