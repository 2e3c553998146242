import { z } from 'zod'
import { defineEffect } from './effect'

/** Kept without anything beside its kind. */
const zNothing: z.ZodType<object> = z.object({})

/** Somebody's turn was taken: the next one has the next. Nothing of it is kept but the count. */
export const turn = defineEffect({
  kind: 'turn',
  category: 'people',
  left: zNothing,
  needs: () => [],
  apply({ world, ruleId, stepId }) {
    world.takeTurn(ruleId, stepId)
    return null
  },
  describe: () => '',
  undo: () => {},
  summarise: () => ({}),
})
