import { z } from 'zod'
import type { Values } from '../language/value'
import type { Fact } from './question'

/** Something that somebody has to approve. */

export const DECISIONS = [
  { id: 'approved', label: 'Approved' },
  { id: 'declined', label: 'Declined' },
] as const

export const REASON_MOST = 1000

export const zDecision = z
  .strictObject({
    decision: z.enum(['approved', 'declined']),
    reason: z.string().trim().max(REASON_MOST).default(''),
  })
  .refine(({ decision, reason }) => decision === 'approved' || reason !== '', {
    path: ['reason'],
    message: 'Say why it is declined.',
  })
export type Decided = z.infer<typeof zDecision>

export interface ApprovalAsks {
  readonly about: 'approval'
  readonly facts: readonly Fact[]
}

export const sayDecision = ({ decision, reason }: Decided): string =>
  `${DECISIONS.find((one) => one.id === decision)?.label ?? decision}${reason === '' ? '' : `: ${reason}`}`

export const decisionValues = ({ decision, reason }: Decided): Values => ({
  decision,
  reason: reason === '' ? null : reason,
})
