import { z } from 'zod'
import { sameRef } from '../records/kinds'
import type { Message } from '../world/ports'
import { defineEffect } from './effect'

/** Something leaves the house, after the commit. */
export const message = defineEffect({
  kind: 'message',
  category: 'outside',
  left: z.object({ key: z.string(), recipient: z.string(), subject: z.string() }),
  needs: () => [],
  apply(
    { world, record, event, runId, stepId },
    { message: sent, each }: { readonly message: Message; readonly each?: string },
  ) {
    // The same step of one run may send once for each of several records, and to each of several people.
    const own = sameRef(record, event.ref)
    const key = `run-${runId}-${stepId}${own ? '' : `-${record.object}-${record.id}`}${each === undefined ? '' : `-${each}`}`
    world.send(sent, key, runId, stepId)
    return { key, recipient: sent.recipient, subject: sent.subject }
  },
  describe: ({ recipient }) => `emailed ${recipient}`,
  undo: ({ recipient }, { left }) => void left.push(`the email to ${recipient} was sent`),
  summarise: () => ({}),
})
