import { bad, good, type Result } from '../../language/problems'
import { defineFieldType, type ReadContext } from '../kind'
import { foldText, type Value } from '../../language/value'

function findStage(raw: string, { catalogue, pipelineId }: ReadContext): Result<Value> {
  if (catalogue.stage(raw)) return good(raw)
  const wanted = foldText(raw)
  const all = catalogue.allStages()
  const found = all.filter(
    (stage) => foldText(stage.name) === wanted && (pipelineId === null || stage.pipelineId === pipelineId),
  )
  if (found.length === 1 && found[0]) return good(found[0].id)
  if (found.length > 1) {
    return bad({
      code: 'severalStages',
      raw,
      pipelines: found.map((stage) => catalogue.pipeline(stage.pipelineId)?.name ?? stage.pipelineId),
    })
  }
  return bad({ code: 'unknownStage', raw, stages: all.map((stage) => stage.name) })
}

export const stage = defineFieldType({
  type: 'stage',
  word: 'stage',
  storage: 'text',
  widget: 'stage',
  read: (raw, context) => (raw.trim() === '' ? good(null) : findStage(raw, context)),
  accept: (value, context) => {
    if (value === null) return good(null)
    return typeof value === 'string' ? findStage(value, context) : bad({ code: 'wrongType', type: 'stage' })
  },
  write: (value, { catalogue }) => catalogue.stageOnce(String(value))?.name ?? String(value),
  key: (value) => String(value),
  ordered: false,
  examples: [
    ['quoted', 'hp-quoted'],
    ['', null],
  ],
})

export const pipeline = defineFieldType({
  type: 'pipeline',
  word: 'pipeline',
  storage: 'text',
  widget: 'pipeline',
  read: (raw, { catalogue }) => {
    const wanted = foldText(raw)
    if (wanted === '') return good(null)
    const found = catalogue.pipelines.find((one) => one.id === raw || foldText(one.name) === wanted)
    return found ? good(found.id) : bad({ code: 'unknownPipeline', raw })
  },
  accept: (value, { catalogue }) => {
    if (value === null) return good(null)
    if (typeof value !== 'string') return bad({ code: 'wrongType', type: 'pipeline' })
    return catalogue.pipeline(value) ? good(value) : bad({ code: 'unknownPipeline', raw: value })
  },
  write: (value, { catalogue }) => catalogue.pipeline(String(value))?.name ?? String(value),
  key: (value) => String(value),
  ordered: false,
  examples: [
    ['Hire & purchase', 'hp'],
    ['', null],
  ],
})
