import type { Pipeline } from '../../core/fields/field'
import type { Workspace } from '../engine/workspace'
import { rulesWithStage } from '../engine/pipelines'

export interface PipelineSheet {
  readonly pipelines: readonly Pipeline[]
  /** By stage: how many deals are in it, and which rules name it. */
  readonly stages: Readonly<
    Record<
      string,
      { readonly deals: number; readonly rules: readonly { readonly ruleId: number; readonly name: string }[] }
    >
  >
}

/** Every pipeline with how many deals each stage holds and which rules name it. */
export function pipelineSheet(workspace: Workspace): PipelineSheet {
  const catalogue = workspace.catalogue()
  const field = catalogue.field('deal', 'stage')
  const held = field ? workspace.store.records.choiceCounts(field) : {}
  return {
    pipelines: catalogue.pipelines,
    stages: Object.fromEntries(
      catalogue.allStages().map((stage) => [
        stage.id,
        {
          deals: held[stage.id] ?? 0,
          rules: rulesWithStage(workspace, stage.id).map((rule) => ({ ruleId: rule.id, name: rule.draft.name })),
        },
      ]),
    ),
  }
}
