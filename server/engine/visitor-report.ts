import { z } from 'zod'
import { zValue } from '../../core/language/value'
import { becomeKnown } from './activity-log'
import { tellActivities } from './activities'
import { readSigned } from './signed-link'
import type { Workspace } from './workspace'

const zRandom = z.string().regex(/^[\da-f]{32}$/)

/** What the script on the firm's pages sends. */
export const zVisitorReport = z.strictObject({
  visitor: zRandom,
  key: zRandom,
  kind: z.enum(['visit', 'form', 'link']),
  about: z.string().max(500),
  data: z.record(z.string().max(60), zValue),
  /** The address that was entered in a form; what is none is left out, and the form counts. */
  email: z.email().max(300).optional().catch(undefined),
  /** Of a link that was sent to somebody. */
  person: z.string().max(60).optional(),
})
export type VisitorReport = z.infer<typeof zVisitorReport>

/** Keeps what a visitor of the website did, and lets scores and rules follow. */
export function takeReport(workspace: Workspace, { visitor, key, email, person, ...report }: VisitorReport): void {
  const { db, store, clock } = workspace
  const contactId = person === undefined ? null : readSigned(workspace, 'contact', person)
  if (contactId !== null && store.visitors.get(visitor)?.contactId !== contactId)
    db.inTurn(() =>
      db.atomically(() => {
        store.visitors.seen(visitor, clock.nowMs())
        becomeKnown(workspace, visitor, contactId)
      }),
    )
  tellActivities(workspace, [
    { ...report, record: { visitor, ...(email === undefined ? {} : { email }) }, atMs: null, key: `site ${key}` },
  ])
}
