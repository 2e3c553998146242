import { z } from 'zod'
import { defineEffect } from './effect'

interface Want {
  readonly personId: string
  readonly subject: string
  readonly body: string
}

/** Somebody is told in the app. */
export const notice = defineEffect({
  kind: 'notice',
  category: 'people',
  left: z.object({ personId: z.string(), subject: z.string() }),
  needs: () => [],
  apply({ world, record, ruleId, runId, stepId }, { personId, subject, body }: Want) {
    world.tell(personId, { ref: { object: record.object, id: record.id }, ruleId, runId, stepId, subject, body })
    return { personId, subject }
  },
  describe: ({ personId, subject }, { catalogue }) =>
    `notified ${catalogue.person(personId)?.name ?? personId}: “${subject}”`,
  undo: ({ personId }, { facts, left }) =>
    void left.push(`${facts.catalogue().person(personId)?.name ?? personId} was notified`),
  summarise: ({ personId }) => ({ noticed: personId }),
})
