import { ActivityTable, type OwnActivity } from '../activities'
import { activityField } from '../activities/fields'
import type { Group } from '../conditions/document'
import type { ObjectKind } from '../records/kinds'
import type { Territory } from '../territories/territory'
import {
  isShown,
  type Field,
  type Person,
  type Pipeline,
  type Stage,
  type SynonymSet,
  type WorkspaceFacts,
} from './field'
import type { Directory } from './directory'
import { Rates, type Rate } from '../money/rates'
import { FIELD_TYPES } from './types'
import { foldText, type Value } from '../language/value'
import { USUAL_MESSAGING, type Messaging } from '../messages/settings'
import type { Template } from '../messages/template'
import type { Connection } from '../web/request'
import type { Scorecard } from '../scoring/card'

/** What something was called until it was renamed. */
export interface FormerName {
  readonly what: 'field' | 'choice' | 'stage' | 'pipeline'
  /** The id of the field, stage or pipeline; of a choice, `<field id>:<choice id>`. */
  readonly of: string
  readonly name: string
  readonly untilMs: number
}

/** A saved filter as rules name it. */
export interface NamedSegment {
  readonly id: number
  readonly object: ObjectKind
  readonly name: string
  readonly filter: Group
}

/** A step of a rule, as the sheet calls it: “2”, “3a.1”. */
export interface NamedStep {
  readonly id: string
  readonly label: string
}

/** Everything rules can name, as plain data: it travels to the browser and into workers as it is. */
export interface CatalogueData {
  readonly workspace: WorkspaceFacts
  readonly fields: readonly Field[]
  /** Fields that were put away: nothing names them any more, but what happened to them can still be told. */
  readonly archived?: readonly Field[]
  readonly pipelines: readonly Pipeline[]
  readonly people: readonly Person[]
  readonly synonyms?: readonly SynonymSet[]
  /** In the order in which they are tried. */
  readonly territories?: readonly Territory[]
  readonly scorecards?: readonly Scorecard[]
  readonly segments?: readonly NamedSegment[]
  /** How messages are sent, where somebody has said so, and their templates, with those that were archived. */
  readonly messaging?: Messaging
  readonly templates?: readonly Template[]
  /** Services that rules may ask, with those that were archived. */
  readonly connections?: readonly Connection[]
  /** Kinds of activities that the workspace made for itself, with those that it archived. */
  readonly activities?: readonly OwnActivity[]
  /** Stages that were taken out of their pipelines, for telling what happened. */
  readonly goneStages?: readonly Stage[]
  /** In the order in which they ended; not sent to the browser. */
  readonly formerNames?: readonly FormerName[]
  /** What currencies are worth; not sent to the browser. */
  readonly rates?: readonly Rate[]
}

/** What each spelling of a set counts as, both folded. */
function spellings(set: SynonymSet): ReadonlyMap<string, string> {
  return new Map(
    set.groups.flatMap((group) => group.map((spelling) => [foldText(spelling), foldText(group[0] ?? '')] as const)),
  )
}

/** Look-ups over the catalogue, each built once. */
export class Catalogue implements Directory {
  readonly workspace: WorkspaceFacts
  readonly pipelines: readonly Pipeline[]
  readonly people: readonly Person[]
  private readonly byObject = new Map<ObjectKind, readonly Field[]>()
  private readonly all = new Map<ObjectKind, readonly Field[]>()
  private readonly byKey = new Map<string, Field>()
  private readonly away = new Map<string, Field>()
  private readonly stages = new Map<string, Stage>()
  private readonly pipelineById = new Map<string, Pipeline>()
  private readonly personById = new Map<string, Person>()
  /** By set: what each spelling, folded, counts as. */
  private readonly same = new Map<number, ReadonlyMap<string, string>>()
  readonly rates: Rates
  readonly activities: ActivityTable
  readonly messaging: Messaging
  /** What was added by `with`, by object and key. */
  private extra: ReadonlyMap<string, Field> | null = null
  /** The steps of a rule that are done before the place that this is the catalogue of; added by `with`. */
  stepsBefore: readonly NamedStep[] = []

  constructor(readonly data: CatalogueData) {
    this.workspace = data.workspace
    this.pipelines = data.pipelines
    this.people = data.people
    this.messaging = data.messaging ?? USUAL_MESSAGING
    this.activities = new ActivityTable(data.activities)
    this.rates = new Rates(data.rates ?? [], data.workspace.currency)
    for (const field of data.fields) {
      this.all.set(field.object, [...(this.all.get(field.object) ?? []), field])
      if (isShown(field)) this.byObject.set(field.object, [...(this.byObject.get(field.object) ?? []), field])
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

  private readonly former = new Map<number, Catalogue>()

  /**
   * The catalogue with everything called what it was called at an instant (ms, UTC): for telling what happened then.
   */
  asOf(atMs: number): Catalogue {
    const names = this.data.formerNames ?? []
    const first = names.findIndex((one) => one.untilMs > atMs)
    if (first < 0) return this
    const known = this.former.get(first)
    if (known) return known
    // Of several names that something had since, the one that ended first is the one it had then.
    const then = new Map([...names.slice(first)].reverse().map((one) => [`${one.what} ${one.of}`, one.name]))
    const renamed = (what: FormerName['what'], of: string, now: string): string => then.get(`${what} ${of}`) ?? now
    const choicesOf = (id: number, choices: Field['choices']): Field['choices'] =>
      choices.map((choice) => ({ ...choice, label: renamed('choice', `${id}:${choice.id}`, choice.label) }))
    const toField = (field: Field): Field => ({
      ...field,
      label: renamed('field', String(field.id), field.label),
      choices: choicesOf(field.id, field.choices),
      ...(field.gone ? { gone: choicesOf(field.id, field.gone) } : {}),
    })
    const toStage = (stage: Stage): Stage => ({ ...stage, name: renamed('stage', stage.id, stage.name) })
    const { archived = [], goneStages = [], formerNames: _f, ...data } = this.data
    const made = new Catalogue({
      ...data,
      fields: data.fields.map(toField),
      archived: archived.map(toField),
      goneStages: goneStages.map(toStage),
      pipelines: data.pipelines.map((pipeline) => ({
        ...pipeline,
        name: renamed('pipeline', pipeline.id, pipeline.name),
        stages: pipeline.stages.map(toStage),
      })),
    })
    this.former.set(first, made)
    return made
  }

  /**
   * The same with more fields, for one use: what the steps of a rule give is used like fields by those further down.
   */
  with(fields: readonly Field[], steps: readonly NamedStep[] = []): Catalogue {
    if (fields.length === 0 && steps.length === 0) return this
    // Shares every look-up with this one: it is made for each step of a rule, while somebody types.
    const made = Object.create(this) as Catalogue
    made.stepsBefore = [...this.stepsBefore, ...steps]
    made.extra = new Map([
      ...(this.extra ?? []),
      ...fields.map((field) => [`${field.object}.${field.key}`, field] as const),
    ])
    return made
  }

  fields(object: ObjectKind): readonly Field[] {
    const own = this.byObject.get(object) ?? []
    return this.extra ? [...own, ...[...this.extra.values()].filter((field) => field.object === object)] : own
  }

  /** The same with those that nobody sees. */
  everyField(object: ObjectKind): readonly Field[] {
    return this.all.get(object) ?? []
  }

  segment(id: number): NamedSegment | null {
    return this.data.segments?.find((one) => one.id === id) ?? null
  }

  connection(id: number): Connection | null {
    return this.data.connections?.find((one) => one.id === id) ?? null
  }

  template(id: number): Template | null {
    return this.data.templates?.find((one) => one.id === id) ?? null
  }

  scorecard(id: number): Scorecard | null {
    return this.data.scorecards?.find((card) => card.id === id) ?? null
  }

  field(object: ObjectKind, key: string): Field | null {
    const name = `${object}.${key}`
    return this.byKey.get(name) ?? this.extra?.get(name) ?? activityField(object, key, this.activities)
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
    return (
      this.synonymSet(field.synonyms)?.groups.find(
        (group) => group[0] !== undefined && foldText(group[0]) === folded,
      )?.[0] ?? text
    )
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
