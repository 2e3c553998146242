import { ruleUse, rulesWhere } from './rules-where'
import { slug } from '../../core/fields/define'
import type { Pipeline, Stage } from '../../core/fields/field'
import { foldText } from '../../core/language/value'
import type { RecordRef } from '../../core/records/kinds'
import { groupUsesStage, usesStage } from '../../core/rules/uses'
import type { StoredRule } from '../store/rules'
import { all, condition } from './asking'
import { keepName } from './fields'
import { RefusedError, type Workspace } from './workspace'
import { newChain } from './live-records'
import { refuse } from './refuse'

export const PIPELINES_MOST = 50
export const STAGES_MOST = 50

function freshId(label: string, taken: ReadonlySet<string>): string {
  const word = slug(label).slice(0, 60) || 'stage'
  for (let n = 1; ; n++) {
    const id = n === 1 ? word : `${word}-${n}`
    if (!taken.has(id)) return id
  }
}

const stageIds = (workspace: Workspace): ReadonlySet<string> =>
  new Set(
    [...workspace.catalogue().allStages(), ...(workspace.catalogue().data.goneStages ?? [])].map((stage) => stage.id),
  )

function refuseSameStage(pipeline: Pipeline, name: string, but: string | null): void {
  const same = pipeline.stages.find((stage) => stage.id !== but && foldText(stage.name) === foldText(name))
  if (same) throw refuse('name', { code: 'stageThere', pipeline: pipeline.name, stage: same.name })
}

function refuseSamePipeline(workspace: Workspace, name: string, but: string | null): void {
  const same = workspace.catalogue().pipelines.find((one) => one.id !== but && foldText(one.name) === foldText(name))
  if (same) throw refuse('name', { code: 'sameName', of: 'pipeline', name: same.name })
}

export interface GivenStage {
  readonly name: string
  readonly outcome: Stage['outcome']
}

/** Makes a pipeline with its first stages, at the end of the others. */
export function makePipeline(workspace: Workspace, name: string, stages: readonly GivenStage[]): string {
  const { pipelines } = workspace.catalogue()
  if (pipelines.length >= PIPELINES_MOST)
    throw refuse('name', { code: 'noMoreThan', of: 'pipeline', most: PIPELINES_MOST })
  refuseSamePipeline(workspace, name, null)
  if (new Set(stages.map((stage) => foldText(stage.name))).size < stages.length)
    throw refuse('stages', { code: 'twice', of: 'stage' })
  const id = freshId(name, new Set(pipelines.map((one) => one.id)))
  const taken = new Set(stageIds(workspace))
  const rows = stages.map((stage) => {
    const stageId = freshId(`${id}-${stage.name}`, taken)
    taken.add(stageId)
    return { id: stageId, ...stage }
  })
  workspace.db.atomically(() =>
    workspace.store.catalogue.addPipeline({ id, name, position: pipelines.length, stages: rows }),
  )
  workspace.tellCatalogue()
  return id
}

/** Renames a pipeline, or moves it before another one. */
export function changePipeline(
  workspace: Workspace,
  pipeline: Pipeline,
  { name, before }: { readonly name?: string | undefined; readonly before?: string | null | undefined },
): void {
  if (name !== undefined) refuseSamePipeline(workspace, name, pipeline.id)
  workspace.db.atomically(() => {
    if (name !== undefined) {
      keepName(workspace, 'pipeline', pipeline.id, pipeline.name, name)
      workspace.store.catalogue.renamePipeline(pipeline.id, name)
    }
    if (before !== undefined)
      workspace.store.catalogue.orderPipelines(
        placed(
          workspace.catalogue().pipelines.map((one) => one.id),
          pipeline.id,
          before,
        ),
      )
  })
  workspace.tellCatalogue()
}

/** A list with one of its ids moved before another, or to the end. */
function placed(ids: readonly string[], id: string, before: string | null): readonly string[] {
  if (before === id) return ids
  const rest = ids.filter((one) => one !== id)
  if (before !== null && !rest.includes(before)) throw refuse('before', { code: 'notThere', name: before })
  const at = before === null ? rest.length : rest.indexOf(before)
  return [...rest.slice(0, at), id, ...rest.slice(at)]
}

export function addStage(
  workspace: Workspace,
  pipeline: Pipeline,
  given: GivenStage & { readonly probability?: number | null | undefined },
): string {
  if (pipeline.stages.length >= STAGES_MOST)
    throw refuse('name', { code: 'noMoreThan', of: 'stage', most: STAGES_MOST })
  refuseSameStage(pipeline, given.name, null)
  const id = freshId(`${pipeline.id}-${given.name}`, stageIds(workspace))
  workspace.db.atomically(() =>
    workspace.store.catalogue.addStage({
      id,
      pipelineId: pipeline.id,
      name: given.name,
      outcome: given.outcome,
      probability: given.probability ?? null,
      position: pipeline.stages.length,
    }),
  )
  workspace.tellCatalogue()
  return id
}

/** Renames a stage, says what it counts as and how likely it is won, or moves it before another one. */
export function changeStage(
  workspace: Workspace,
  stage: Stage,
  change: {
    readonly name?: string | undefined
    readonly outcome?: Stage['outcome'] | undefined
    readonly probability?: number | null | undefined
    readonly before?: string | null | undefined
  },
): void {
  const pipeline = workspace.catalogue().pipeline(stage.pipelineId)
  if (!pipeline) throw new Error(`stage ${stage.id} has no pipeline`)
  const { name, outcome, probability, before } = change
  if (name !== undefined) refuseSameStage(pipeline, name, stage.id)
  workspace.db.atomically(() => {
    if (name !== undefined) keepName(workspace, 'stage', stage.id, stage.name, name)
    workspace.store.catalogue.updateStage(stage.id, {
      ...(name === undefined ? {} : { name }),
      ...(outcome === undefined ? {} : { outcome }),
      ...(probability === undefined ? {} : { probability }),
    })
    if (before !== undefined)
      workspace.store.catalogue.orderStages(
        placed(
          pipeline.stages.map((one) => one.id),
          stage.id,
          before,
        ),
      )
  })
  workspace.tellCatalogue()
}

/** Rules that name a stage, in their draft or in the version that runs. */
export const rulesWithStage = (workspace: Workspace, stage: string): readonly StoredRule[] =>
  rulesWhere(workspace, (document) => usesStage(document, stage))

/**
 * Takes a stage out of its pipeline. Its deals go to another one first, as changes of the person who does it that
 * rules do not look at. Refused while rules or segments name it, and for the last stage of a pipeline.
 */
export function removeStage(
  workspace: Workspace,
  stage: Stage,
  to: string | null,
  personId: string,
): { readonly moved: number } {
  const pipeline = workspace.catalogue().pipeline(stage.pipelineId)
  if ((pipeline?.stages.length ?? 0) <= 1) throw refuse('', { code: 'lastStage' })
  const use = ruleUse(workspace, (document) => usesStage(document, stage.id))
  if (use) throw refuse('', { code: 'inUse', name: stage.name, cannot: 'removed', by: use })
  const segment = workspace.store.segments.all().find((one) => groupUsesStage(one.filter, one.object, stage.id))
  if (segment) throw refuse('', { code: 'inUse', name: stage.name, cannot: 'removed', by: { segment: segment.name } })
  const where = workspace.store.records.where(
    all(condition('stage', 'is', { value: stage.id })),
    'deal',
    workspace.catalogue(),
    workspace.moment(),
  )
  const held = workspace.store.records.matching('deal', where, 1_000_000)
  if (held.length > 0 && to === null) throw refuse('to', { code: 'stageHeld', deals: held.length })
  if (to !== null && (to === stage.id || !workspace.catalogue().stage(to))) throw refuse('to', { code: 'otherStage' })
  workspace.db.atomically(() => {
    for (const { id } of held) {
      const ref: RecordRef = { object: 'deal', id }
      const written = workspace.world.write(ref, { stage: to }, { by: 'person', personId }, newChain(), true)
      if (!written.ok) throw new RefusedError(written.problems)
    }
    workspace.store.catalogue.updateStage(stage.id, { archived: true })
    workspace.handleNew()
  })
  workspace.tellCatalogue()
  return { moved: held.length }
}
