import { z } from 'zod'
import { CHANNEL_WORDS, MESSAGE_CHANNELS } from '../messages/guards'
import type { Letter } from '../messages/letter'
import { defineEffect, zRef } from './effect'

/** A message to a customer is handed over, after the commit. */
export const letter = defineEffect({
  kind: 'letter',
  category: 'outside',
  left: z.object({
    key: z.string(),
    channel: z.enum(MESSAGE_CHANNELS),
    who: zRef,
    name: z.string(),
    address: z.string(),
    subject: z.string(),
    label: z.string(),
  }),
  needs: ({ letter: { who } }: { readonly letter: Letter }) => [who],
  apply({ world, event, ruleId, runId, stepId }, { letter: sent }: { readonly letter: Letter }) {
    const { channel, who, name, address, subject, label } = sent
    // One step of a run writes to an address once.
    const key = `letter-${runId}-${stepId}-${channel}-${address}`
    world.post(sent, { ref: event.ref, ruleId, runId, stepId }, key)
    return { key, channel, who, name, address, subject, label }
  },
  describe: ({ channel, name, address, subject }) =>
    `${CHANNEL_WORDS[channel].one} to ${name} (${address})${subject === '' ? '' : `: “${subject}”`}`,
  undo: ({ channel, name }, { left }) => void left.push(`the ${CHANNEL_WORDS[channel].one} to ${name} was sent`),
  summarise: ({ who }) => ({ records: [{ object: who.object, id: who.id }] }),
})
