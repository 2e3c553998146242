import { z } from 'zod'
import type { Seen } from '../conditions/compile'
import type { Names } from '../fields/names'
import { zValue } from '../language/value'
import { sayInstant } from '../time/say'

/** What the engine itself leaves of a step: where the run went, waited or ended, and what the step found. */
interface MarkSpec<L extends object> {
  readonly left: z.ZodType<L>
  describe(left: L, names: Names): string
  /** Whether what is ahead has changed. */
  readonly ahead: boolean
}
const mark = <L extends object>(spec: MarkSpec<L>): MarkSpec<L> => Object.freeze(spec)

export const MARKS = {
  /** The run went this way through a step that holds others. */
  way: mark({
    left: z.object({ branch: z.string(), say: z.string(), seen: z.array(z.custom<Seen>()).readonly() }),
    describe: ({ say }) => say,
    ahead: false,
  }),
  /** What the step found, for the steps further down; by the keys under which they name it. */
  gave: mark({
    left: z.object({ values: z.record(z.string(), zValue), say: z.string() }),
    describe: ({ say }) => say,
    ahead: false,
  }),
  /** The run waited here, from and until these instants. */
  waited: mark({
    left: z.object({ fromMs: z.number(), toMs: z.number(), say: z.string() }),
    describe: ({ say, toMs }, { catalogue }) => say || `waited until ${sayInstant(toMs, catalogue.workspace.zone)}`,
    ahead: true,
  }),
  /** The step itself is to be done later. */
  planned: mark({
    left: z.object({ dueMs: z.number(), say: z.string() }),
    describe: ({ say, dueMs }, { catalogue }) => `${say}: ${sayInstant(dueMs, catalogue.workspace.zone)}`,
    ahead: true,
  }),
  /** The run waits before the step, and comes to it again. */
  held: mark({
    left: z.object({ untilMs: z.number(), say: z.string(), capped: z.boolean().optional() }),
    describe: ({ say }) => `postponed: ${say}`,
    ahead: true,
  }),
  /** The run was ended here. */
  stop: mark({
    left: z.object({ because: z.string() }),
    describe: ({ because }) => `stopped: ${because}`,
    ahead: false,
  }),
  /** What the journal holds here cannot be read; the rest of it can. */
  unread: mark({
    left: z.object({ say: z.string() }),
    describe: ({ say }) => say,
    ahead: false,
  }),
} as const
export type MarkName = keyof typeof MARKS

export type MarkLeft = { [K in MarkName]: { readonly what: K } & z.infer<(typeof MARKS)[K]['left']> }[MarkName]
