import { z } from 'zod'
import type { Form } from '../../language/widgets'
import type { StepProblem } from '../step'
import { say, word, type SentencePart } from '../../language/sentence'
import { aOne } from '../../records/kinds'
import type { Names } from '../../fields/names'
import { standsBy, type Standing } from '../standing'

/** What triggers about one stage have in common. */
export interface StageParams {
  stage: string | null
}

export const zStageParams = z.strictObject({ stage: z.string().max(100).nullable() })
export const STAGE_FORM: Form<StageParams> = { stage: { widget: 'stage' } }
export const NO_STAGE: StageParams = { stage: null }

/** "a deal enters Quoted in Hire & purchase". */
export function stageSentence(
  { stage }: StageParams,
  verb: string,
  { catalogue, object }: Names,
): readonly SentencePart[] {
  const found = stage === null ? null : catalogue.stage(stage)
  const pipeline = found ? catalogue.pipeline(found.pipelineId) : null
  return [
    say(`${aOne(object)} ${verb} `),
    word('stage', found?.name ?? null, 'a stage'),
    say(pipeline ? ` (${pipeline.name})` : ''),
  ]
}

export const checkStage = ({ stage }: StageParams, { catalogue }: Names): readonly StepProblem[] =>
  stage !== null && catalogue.stage(stage) ? [] : [{ param: 'stage', problem: { code: 'missing', what: 'stage' } }]

/** Deals that are in the stage. */
export function standsInStage({ stage }: StageParams, { catalogue }: Names): Standing | null {
  const field = catalogue.field('deal', 'stage')
  const found = stage === null ? null : catalogue.stage(stage)
  return field && found ? standsBy(field, 'is', { value: stage }, { say: `in ${found.name}` }) : null
}
