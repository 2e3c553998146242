import type { ObjectKind } from '../records/kinds'
import type { Field, Person, Pipeline, Stage, SynonymSet, WorkspaceFacts } from './field'
import { FIELD_TYPES } from './types'
import { foldText, type Value } from './value'

/** Everything rules can name, as plain data: it travels to the browser and into workers as it is. */
export interface CatalogueData {
  readonly workspace: WorkspaceFacts
  readonly fields: readonly Field[]
  /** Fields that were put away: nothing names them any more, but what happened to them can still be told. */
  readonly archived?: readonly Field[]
  readonly pipelines: readonly Pipeline[]
  readonly people: readonly Person[]
  readonly synonyms?: readonly SynonymSet[]
  /** Stages that were taken out of their pipelines, for telling what happened. */
  readonly goneStages?: readonly Stage[]
}

/** What each spelling of a set counts as, both folded. */
function spellings(set: SynonymSet): ReadonlyMap<string, string> {
  return new Map(set.groups.flatMap((group) => group.map((spelling) => [foldText(spelling), foldText(group[0] ?? '')] as const)))
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
  /** By set: what each spelling, folded, counts as. */
  private readonly same = new Map<number, ReadonlyMap<string, string>>()

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
    for (const set of data.synonyms ?? []) this.same.set(set.id, spellings(set))
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

  /**
   * The form in which two values of a field are compared: equal forms mean "the same". Spellings of one synonym set
   * have one form; the record keeps the spelling it came with. Never called with `null`.
   */
  compared(field: Field, value: Value): string | number {
    const key = FIELD_TYPES[field.type].key(value)
    return field.synonyms === null ? key : (this.same.get(field.synonyms)?.get(String(key)) ?? key)
  }

  synonymSet(id: number | null): SynonymSet | null {
    return this.data.synonyms?.find((set) => set.id === id) ?? null
  }

  /** How a text reads in its synonym set's own spelling; as it is where no set knows it. */
  ownSpelling(field: Field, text: string): string {
    const folded = this.compared(field, text)
    return this.synonymSet(field.synonyms)?.groups.find((group) => group[0] !== undefined && foldText(group[0]) === folded)?.[0] ?? text
  }

  stage(id: string): Stage | null {
    return this.stages.get(id) ?? null
  }

  /** The stage, also when it was taken out: for telling what happened. */
  stageOnce(id: string): Stage | null {
    return this.stage(id) ?? this.data.goneStages?.find((stage) => stage.id === id) ?? null
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
