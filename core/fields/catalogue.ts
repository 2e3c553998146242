import type { ObjectKind } from '../records/kinds'
import type { Field, Person, Pipeline, Stage, WorkspaceFacts } from './field'

/** Everything rules can name, as plain data: it travels to the browser and into workers as it is. */
export interface CatalogueData {
  readonly workspace: WorkspaceFacts
  readonly fields: readonly Field[]
  /** Fields that were put away: nothing names them any more, but what happened to them can still be told. */
  readonly archived?: readonly Field[]
  readonly pipelines: readonly Pipeline[]
  readonly people: readonly Person[]
}

/** Look-ups over the catalogue, each built once. */
export class Catalogue {
  readonly workspace: WorkspaceFacts
  readonly pipelines: readonly Pipeline[]
  readonly people: readonly Person[]
  private readonly byObject = new Map<ObjectKind, readonly Field[]>()
  private readonly byKey = new Map<string, Field>()
  private readonly away = new Map<string, Field>()
  private readonly stages = new Map<string, Stage>()
  private readonly pipelineById = new Map<string, Pipeline>()
  private readonly personById = new Map<string, Person>()

  constructor(readonly data: CatalogueData) {
    this.workspace = data.workspace
    this.pipelines = data.pipelines
    this.people = data.people
    for (const field of data.fields) {
      this.byObject.set(field.object, [...(this.byObject.get(field.object) ?? []), field])
      this.byKey.set(`${field.object}.${field.key}`, field)
    }
    for (const field of data.archived ?? []) this.away.set(`${field.object}.${field.key}`, field)
    for (const pipeline of data.pipelines) {
      this.pipelineById.set(pipeline.id, pipeline)
      for (const stage of pipeline.stages) this.stages.set(stage.id, stage)
    }
    for (const person of data.people) this.personById.set(person.id, person)
  }

  fields(object: ObjectKind): readonly Field[] {
    return this.byObject.get(object) ?? []
  }

  field(object: ObjectKind, key: string): Field | null {
    return this.byKey.get(`${object}.${key}`) ?? null
  }

  /** The field, also when it was put away: for telling what happened. */
  fieldOnce(object: ObjectKind, key: string): Field | null {
    return this.field(object, key) ?? this.away.get(`${object}.${key}`) ?? null
  }

  stage(id: string): Stage | null {
    return this.stages.get(id) ?? null
  }

  allStages(): readonly Stage[] {
    return [...this.stages.values()]
  }

  pipeline(id: string): Pipeline | null {
    return this.pipelineById.get(id) ?? null
  }

  person(id: string): Person | null {
    return this.personById.get(id) ?? null
  }
}
