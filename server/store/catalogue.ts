import { connections } from '../db/schema/outside'
import { and, asc, eq, sql } from 'drizzle-orm'
import { Catalogue, type FormerName } from '../../core/fields/catalogue'
import type { Making } from '../../core/derived/making'
import type { Field, Stage, WorkspaceFacts } from '../../core/fields/field'
import type { Territory } from '../../core/territories/territory'
import type { Messaging } from '../../core/messages/settings'
import type { Db } from '../db/connect'
import type { Scorecard } from '../../core/scoring/card'
import {
  activityKinds,
  choices,
  fields,
  formerNames,
  holidays,
  people,
  pipelines,
  rates,
  scorecards,
  segments,
  stages,
  synonymSets,
  templates,
  territories,
  workspace,
} from '../db/schema/catalogue'

export type NewField = Omit<Field, 'id'> & { readonly indexed: boolean; readonly position: number }

type FieldRow = typeof fields.$inferSelect

/** What everybody may know of a person; the password's hash is not among it. */
const PERSON = {
  id: people.id,
  name: people.name,
  email: people.email,
  role: people.role,
  team: people.team,
  title: people.title,
  awayFrom: people.awayFrom,
  awayTo: people.awayTo,
  deputyId: people.deputyId,
  active: people.active,
  zone: people.zone,
}

const CARD = {
  id: scorecards.id,
  object: scorecards.object,
  name: scorecards.name,
  key: scorecards.key,
  lines: scorecards.lines,
  least: scorecards.least,
  most: scorecards.most,
  bands: scorecards.bands,
}

/** The workspace, its fields, pipelines and people. Small, read whole, and kept by whoever asks. */
export class CatalogueStore {
  constructor(private readonly db: Db) {}

  /** `null` while nobody has set the workspace up. */
  read(): Catalogue | null {
    const { orm } = this.db
    const facts = orm.select().from(workspace).get()
    if (!facts) return null
    const choiceRows = orm.select().from(choices).orderBy(asc(choices.position)).all()
    const stageRows = orm.select().from(stages).orderBy(asc(stages.position)).all()
    const toStage = ({ archived: _a, ...stage }: (typeof stageRows)[number]): Stage => stage
    const all = orm.select().from(fields).orderBy(asc(fields.position), asc(fields.id)).all()
    const toField = ({ indexed: _i, position: _p, archived: _a, ...field }: (typeof all)[number]): Field => ({
      ...field,
      choices: choiceRows
        .filter((choice) => choice.fieldId === field.id && !choice.archived)
        .map(({ id, label }) => ({ id, label })),
      ...(choiceRows.some((choice) => choice.fieldId === field.id && choice.archived)
        ? {
            gone: choiceRows
              .filter((choice) => choice.fieldId === field.id && choice.archived)
              .map(({ id, label }) => ({ id, label })),
          }
        : {}),
    })
    return new Catalogue({
      workspace: {
        name: facts.name,
        zone: facts.zone,
        locale: facts.locale,
        currency: facts.currency,
        demo: facts.demo,
        workdays: facts.workdays,
        opensAt: facts.opensAt,
        closesAt: facts.closesAt,
        teams: facts.teams,
        holidays: orm.select().from(holidays).orderBy(asc(holidays.date)).all(),
      },
      fields: all.filter((field) => !field.archived).map(toField),
      archived: all.filter((field) => field.archived).map(toField),
      pipelines: orm
        .select()
        .from(pipelines)
        .orderBy(asc(pipelines.position))
        .all()
        .map(({ id, name }) => ({
          id,
          name,
          stages: stageRows.filter((stage) => stage.pipelineId === id && !stage.archived).map(toStage),
        })),
      goneStages: stageRows.filter((stage) => stage.archived).map(toStage),
      formerNames: orm
        .select({ what: formerNames.what, of: formerNames.of, name: formerNames.name, untilMs: formerNames.untilMs })
        .from(formerNames)
        .orderBy(asc(formerNames.untilMs), asc(formerNames.id))
        .all(),
      people: orm.select(PERSON).from(people).orderBy(asc(people.name)).all(),
      territories: orm
        .select({
          id: territories.id,
          name: territories.name,
          filter: territories.filter,
          personId: territories.personId,
        })
        .from(territories)
        .orderBy(asc(territories.position), asc(territories.id))
        .all(),
      scorecards: orm.select(CARD).from(scorecards).orderBy(asc(scorecards.id)).all(),
      ...(facts.messaging ? { messaging: facts.messaging } : {}),
      connections: orm.select().from(connections).orderBy(asc(connections.name)).all(),
      templates: orm
        .select({
          id: templates.id,
          name: templates.name,
          folder: templates.folder,
          channel: templates.channel,
          variants: templates.variants,
          version: templates.version,
          archived: templates.archived,
        })
        .from(templates)
        .orderBy(asc(templates.folder), asc(templates.name))
        .all()
        .map(({ variants, ...one }) => ({ ...one, variants: [...variants] })),
      activities: orm.select().from(activityKinds).orderBy(asc(activityKinds.id)).all(),
      segments: orm
        .select({ id: segments.id, object: segments.object, name: segments.name, filter: segments.filter })
        .from(segments)
        .orderBy(asc(segments.name))
        .all(),
      rates: orm.select().from(rates).all(),
      synonyms: orm.select().from(synonymSets).orderBy(asc(synonymSets.name)).all(),
    })
  }

  /** Puts the list of territories in place of the one that is there. */
  setTerritories(list: readonly Omit<Territory, 'id'>[]): void {
    this.db.orm.delete(territories).run()
    list.forEach((territory, position) =>
      this.db.orm
        .insert(territories)
        .values({ ...territory, position })
        .run(),
    )
  }

  /** Changes when the firm works, or its zone. */
  updateWorkspace(change: Partial<Pick<WorkspaceFacts, 'zone' | 'workdays' | 'opensAt' | 'closesAt' | 'teams'>>): void {
    if (Object.keys(change).length > 0) this.db.orm.update(workspace).set(change).run()
  }

  setHolidays(list: WorkspaceFacts['holidays']): void {
    this.db.orm.delete(holidays).run()
    if (list.length > 0)
      this.db.orm
        .insert(holidays)
        .values([...list])
        .run()
  }

  /** How far the clock of the workspace was turned forward, in ms. */
  clockAhead(): number {
    return this.db.orm.select({ ms: workspace.clockAheadMs }).from(workspace).get()?.ms ?? 0
  }

  setClockAhead(ms: number): void {
    this.db.orm.update(workspace).set({ clockAheadMs: ms }).run()
  }

  indexedFields(): readonly {
    readonly id: number
    readonly object: Field['object']
    readonly type: Field['type']
    readonly indexed: boolean
  }[] {
    return this.db.orm
      .select({ id: fields.id, object: fields.object, type: fields.type, indexed: fields.indexed })
      .from(fields)
      .all()
  }

  setUp(facts: WorkspaceFacts): void {
    const { holidays: days, teams = [], ...rest } = facts
    this.db.orm
      .insert(workspace)
      .values({ id: 1, ...rest, teams })
      .run()
    if (days.length)
      this.db.orm
        .insert(holidays)
        .values([...days])
        .run()
  }

  addField({ choices: options, ...field }: NewField): number {
    const { id } = this.db.orm.insert(fields).values(field).returning({ id: fields.id }).get()
    options.forEach((choice, position) =>
      this.db.orm
        .insert(choices)
        .values({ fieldId: id, ...choice, position })
        .run(),
    )
    return id
  }

  /** Keeps what something was called until it got another name. */
  addFormerName(former: FormerName): void {
    this.db.orm.insert(formerNames).values(former).run()
  }

  /** Changes what a field is called and says, whether it must be filled, and whether it is put away. */
  updateField(
    id: number,
    change: Partial<
      Pick<FieldRow, 'label' | 'phrase' | 'description' | 'required' | 'archived' | 'synonyms' | 'indexed'>
    >,
  ): void {
    if (Object.keys(change).length > 0) this.db.orm.update(fields).set(change).where(eq(fields.id, id)).run()
  }

  /** Says how a field's value comes about. */
  setMaking(id: number, made: Making, keptBy: string): void {
    this.db.orm.update(fields).set({ made, keptBy }).where(eq(fields.id, id)).run()
  }

  /** Takes a field out altogether; only for those that nobody ever saw. */
  dropField(id: number): void {
    this.db.orm.delete(fields).where(eq(fields.id, id)).run()
  }

  addScorecard(card: Omit<Scorecard, 'id'>, personId: string, nowMs: number): number {
    return this.db.orm
      .insert(scorecards)
      .values({ ...card, changedBy: personId, changedAt: nowMs })
      .returning({ id: scorecards.id })
      .get().id
  }

  updateScorecard(
    id: number,
    change: Partial<Omit<Scorecard, 'id' | 'object' | 'key'>>,
    personId: string,
    nowMs: number,
  ): void {
    this.db.orm
      .update(scorecards)
      .set({ ...change, changedBy: personId, changedAt: nowMs })
      .where(eq(scorecards.id, id))
      .run()
  }

  removeScorecard(id: number): void {
    this.db.orm.delete(scorecards).where(eq(scorecards.id, id)).run()
  }

  /**
   * Puts the choices of a field that the system keeps in step with its bands, without losing what earlier ones were
   * called.
   */
  setChoices(fieldId: number, list: readonly { readonly id: string; readonly label: string }[]): void {
    const { orm } = this.db
    orm.update(choices).set({ archived: true }).where(eq(choices.fieldId, fieldId)).run()
    list.forEach(({ id, label }, position) =>
      orm
        .insert(choices)
        .values({ fieldId, id, label, position })
        .onConflictDoUpdate({ target: [choices.fieldId, choices.id], set: { label, position, archived: false } })
        .run(),
    )
  }

  setMessaging(messaging: Messaging): void {
    this.db.orm.update(workspace).set({ messaging }).run()
  }

  simulatedShare(): number {
    return this.db.orm.select({ share: workspace.simulatedShare }).from(workspace).get()?.share ?? 0
  }

  setSimulatedShare(share: number): void {
    this.db.orm.update(workspace).set({ simulatedShare: share }).run()
  }

  addActivityKind(made: Omit<typeof activityKinds.$inferInsert, 'id'>): void {
    this.db.orm.insert(activityKinds).values(made).run()
  }

  updateActivityKind(id: number, change: Partial<Omit<typeof activityKinds.$inferInsert, 'id' | 'kind'>>): void {
    if (Object.keys(change).length > 0)
      this.db.orm.update(activityKinds).set(change).where(eq(activityKinds.id, id)).run()
  }

  addSynonymSet(name: string, groups: readonly (readonly string[])[]): number {
    return this.db.orm.insert(synonymSets).values({ name, groups }).returning({ id: synonymSets.id }).get().id
  }

  updateSynonymSet(
    id: number,
    change: { readonly name?: string; readonly groups?: readonly (readonly string[])[] },
  ): void {
    if (Object.keys(change).length > 0) this.db.orm.update(synonymSets).set(change).where(eq(synonymSets.id, id)).run()
  }

  removeSynonymSet(id: number): void {
    this.db.orm.delete(synonymSets).where(eq(synonymSets.id, id)).run()
  }

  /** Puts the fields of a kind of record in this order; those that are not named come behind. */
  orderFields(ids: readonly number[]): void {
    ids.forEach((id, position) => this.db.orm.update(fields).set({ position }).where(eq(fields.id, id)).run())
  }

  /** Adds a choice at the end. */
  addChoice(fieldId: number, id: string, label: string): void {
    const { next } = this.db.orm
      .select({ next: sql<number>`coalesce(max(${choices.position}), -1) + 1` })
      .from(choices)
      .where(eq(choices.fieldId, fieldId))
      .get() ?? { next: 0 }
    this.db.orm.insert(choices).values({ fieldId, id, label, position: next }).run()
  }

  /** What records and rules hold is the choice's id: they follow the new word at once. */
  renameChoice(fieldId: number, id: string, label: string): void {
    this.db.orm
      .update(choices)
      .set({ label })
      .where(and(eq(choices.fieldId, fieldId), eq(choices.id, id)))
      .run()
  }

  orderChoices(fieldId: number, ids: readonly string[]): void {
    ids.forEach((id, position) =>
      this.db.orm
        .update(choices)
        .set({ position })
        .where(and(eq(choices.fieldId, fieldId), eq(choices.id, id)))
        .run(),
    )
  }

  renamePipeline(id: string, name: string): void {
    this.db.orm.update(pipelines).set({ name }).where(eq(pipelines.id, id)).run()
  }

  orderPipelines(ids: readonly string[]): void {
    ids.forEach((id, position) => this.db.orm.update(pipelines).set({ position }).where(eq(pipelines.id, id)).run())
  }

  addStage(stage: Stage): void {
    this.db.orm.insert(stages).values(stage).run()
  }

  updateStage(
    id: string,
    change: Partial<Pick<typeof stages.$inferSelect, 'name' | 'outcome' | 'probability' | 'archived'>>,
  ): void {
    if (Object.keys(change).length > 0) this.db.orm.update(stages).set(change).where(eq(stages.id, id)).run()
  }

  orderStages(ids: readonly string[]): void {
    ids.forEach((id, position) => this.db.orm.update(stages).set({ position }).where(eq(stages.id, id)).run())
  }

  /**
   * Gives a field another type and, where that has choices, these. Choices it had are gone: values of the new type do
   * not name them.
   */
  retypeField(
    id: number,
    type: FieldRow['type'],
    options: readonly { readonly id: string; readonly label: string }[],
  ): void {
    this.db.orm.update(fields).set({ type, synonyms: null, currencyKey: null }).where(eq(fields.id, id)).run()
    this.db.orm.delete(choices).where(eq(choices.fieldId, id)).run()
    options.forEach((choice, position) =>
      this.db.orm
        .insert(choices)
        .values({ fieldId: id, ...choice, position })
        .run(),
    )
  }

  /** Takes a choice out of the list; what happened with it can still be told. */
  archiveChoice(fieldId: number, id: string): void {
    this.db.orm
      .update(choices)
      .set({ archived: true })
      .where(and(eq(choices.fieldId, fieldId), eq(choices.id, id)))
      .run()
  }

  addPipeline(given: {
    readonly id: string
    readonly name: string
    readonly position: number
    readonly stages: readonly {
      readonly id: string
      readonly name: string
      readonly outcome: 'open' | 'won' | 'lost'
    }[]
  }): void {
    const { stages: rows, ...pipeline } = given
    this.db.orm.insert(pipelines).values(pipeline).run()
    rows.forEach((stage, position) =>
      this.db.orm
        .insert(stages)
        .values({ ...stage, pipelineId: pipeline.id, position })
        .run(),
    )
  }
}
