import type { Person, Pipeline, Stage, WorkspaceFacts } from './field'

/** What reading and writing a value may look up: the part of the catalogue that types of fields know. */
export interface Directory {
  readonly workspace: WorkspaceFacts
  readonly people: readonly Person[]
  readonly pipelines: readonly Pipeline[]
  person(id: string): Person | null
  pipeline(id: string): Pipeline | null
  stage(id: string): Stage | null
  /** The stage, also when it was taken out: for telling what happened. */
  stageOnce(id: string): Stage | null
  allStages(): readonly Stage[]
}
