import { z } from 'zod'
import { CALL_ENDS, CALL_OUTCOMES } from '../../core/asks/call'
import { QUESTION_TYPES } from '../../core/asks/question'
import { zInstant, zRef } from './contract'

const zFact = z.strictObject({ label: z.string(), value: z.string() })

export const zQuestion = z.strictObject({
  key: z.string(),
  label: z.string(),
  type: z.enum(QUESTION_TYPES),
  choices: z.array(z.string()),
  required: z.boolean(),
})

/** What a task asks when it is completed. */
export const zAsks = z
  .discriminatedUnion('about', [
    z.strictObject({ about: z.literal('questions'), facts: z.array(zFact), questions: z.array(zQuestion) }),
    z
      .strictObject({ about: z.literal('approval'), facts: z.array(zFact) })
      .describe('answers: `decision` (`approved`, `declined`) and `reason`'),
    z
      .strictObject({
        about: z.literal('call'),
        contact: zRef,
        name: z.string(),
        number: z.string(),
        script: z.string(),
        automatic: z.boolean(),
        attempt: z.number().int(),
        most: z.number().int(),
        pauseMs: z.number().int(),
        notBeforeMs: zInstant.nullable(),
      })
      .describe(
        `answers: \`outcome\` (${CALL_OUTCOMES.map(({ id }) => id).join(', ')}), \`ended\` (${CALL_ENDS.map(({ id }) => id).join(', ')}), \`notes\`, \`minutes\``,
      ),
  ])
  .nullable()
  .meta({ id: 'Asks' })
