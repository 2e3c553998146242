import '../formulas/formula'
import '../time/recurrence-days'
import { FACTS, FIELDS, PEOPLE, PIPELINES, TERRITORIES } from './firm'
import { momentAt } from '../engine/moment'
import { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'

export const TODAY = '2026-11-24'

export const NOW_MS = Date.UTC(2026, 10, 24, 9, 12)

/** The catalogue of the firm that tests stand on. */
export const catalogue = new Catalogue({
  workspace: FACTS,
  people: PEOPLE,
  territories: TERRITORIES,
  connections: [{ id: 1, name: 'Order system', address: '', headers: [], archived: false }],
  fields: FIELDS.map((field, i) => ({ ...field, id: i + 1 })),
  pipelines: PIPELINES.map(({ stages, ...pipeline }) => ({
    ...pipeline,
    stages: stages.map(([id, name, outcome], position) => ({
      id,
      name,
      outcome,
      probability: null,
      position,
      pipelineId: pipeline.id,
    })),
  })),
})

export const moment = momentAt(NOW_MS, catalogue.workspace)

export const names = (object: ObjectKind = 'deal') => ({ catalogue, object })
