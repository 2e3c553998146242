import { z } from 'zod'
import { sameRef } from '../records/kinds'
import type { Message } from '../world/ports'
import { defineEffect } from './effect'

/** Something leaves the house, after the commit. */
export const message = defineEffect({
  kind: 'message',
  hue: 'outside',
  left: z.object({ key: z.string(), recipient: z.string(), subject: z.string() }),
  needs: () => [],
  apply({ world, record, event, runId, stepId }, { message: sent }: { readonly message: Message }) {
    // The same step of one run may send once for each of several records.
    const own = sameRef(record, event.ref)
    const key = own ? `run-${runId}-${stepId}` : `run-${runId}-${stepId}-${record.object}-${record.id}`
    world.send(sent, key, runId)
    return { key, recipient: sent.recipient, subject: sent.subject }
  },
  describe: ({ recipient }) => `emailed ${recipient}`,
  undo: ({ recipient }, { left }) => void left.push(`the email to ${recipient} was sent`),
  summarise: () => ({}),
})
