import './patterns'
import '../../core/formulas/formula'
import '../../core/time/recurrence-days'
import { summaryOf } from '../../core/effects/wrote'
import type { ActiveRule } from '../../core/engine/matcher'
import type { RunReport } from '../../core/engine/handle-event'
import { processEvent } from '../../core/engine/process-event'
import { Matcher } from '../../core/engine/matcher'
import { sayReport } from '../../core/engine/say-run'
import { momentAt } from '../../core/engine/moment'
import type { Catalogue } from '../../core/fields/catalogue'
import type { Value, Values } from '../../core/language/value'
import type { PlacedProblem } from '../../core/language/problems'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { Subject } from '../../core/conditions/subject'
import type { Cause, ChangeEvent, RecordSnapshot } from '../../core/records/record'
import { subjectOf } from '../../core/records/subject'
import { openDb, type Db, type Turns } from '../db/connect'
import type { Pause } from '../db/schema/rules'
import { openStore, type Store } from '../store'
import type { NewField } from '../store/catalogue'
import { openChannels } from '../channels'
import type { Channels } from '../channels/channel'
import { TurnedClock, type Clock } from './clock'
import { LiveHub } from './live'
import { LiveWorld } from './live-world'
import { Courier } from './courier'
import { letterSent } from './post'
import { knowByEmail } from './activity-log'
import { messageGivenUp } from './given-up'
import { replied } from './web-replies'
import { rulePaused } from './troubles'
import { tidySegments } from './segment-fields'
import type { Moment } from '../../core/conditions/moment'
import { newChain } from './live-records'

/** How many events are handled in one commit, at the most. */
const BATCH = 500
const READER = 'engine'
const HOUR_MS = 3_600_000
/** A rule pauses when it is started more often than this in an hour, and so many times as often as is usual. */
const FLOOD_FROM = 500
const FLOOD_TIMES = 10
/**
 * Of more runs in one batch than this, none is told one by one: nobody reads so many lines, and the journal has them.
 */
const TOLD_MOST = 20

/** Thrown when values are refused; carries the place and the reason of each. */
export class RefusedError extends Error {
  constructor(readonly problems: readonly PlacedProblem[]) {
    super('refused')
  }
}

/** Thrown when nobody has set the workspace up yet. */
export class EmptyWorkspaceError extends Error {}

/** A workspace at work: the store, the engine over it, and whoever wants to hear what happens. */
export class Workspace {
  readonly db: Db
  readonly dbFile: string
  readonly store: Store
  readonly live = new LiveHub()
  readonly world: LiveWorld
  private known: Catalogue | null = null
  private matching: Matcher | null = null
  /** The revision that what is kept in memory belongs to. */
  private revision = { rules: -1, catalogue: -1, stock: -1, clock: -1 }
  /** Carries what is to leave the house. */
  readonly courier: Courier
  /** Hears of every run once it is committed: for the log and the counts. */
  private readonly ran: (reports: readonly RunReport[]) => void

  constructor(given: {
    readonly dbFile: string
    readonly migrationsFolder: string
    readonly clock?: Clock
    readonly channels?: (db: Db) => Channels
    /** How long something that is on its way belongs to this workspace alone. */
    readonly leaseMs?: number
    readonly turns?: Turns
    /** Starts in an hour from which on a rule may be paused; `Infinity` for never. */ readonly floodFrom?: number
    readonly ran?: (reports: readonly RunReport[]) => void
    /** Hears of what went wrong where nobody waits for it. */
    readonly trouble?: (error: unknown) => void
  }) {
    this.dbFile = given.dbFile
    this.db = openDb(given.dbFile, given.migrationsFolder, given.turns ?? null)
    this.ran = given.ran ?? (() => {})
    this.store = openStore(this.db)
    this.clock = given.clock ?? new TurnedClock()
    this.floodFrom = given.floodFrom ?? Number(process.env.SKY_LEVER_FLOOD_FROM ?? FLOOD_FROM)
    let sent = false
    this.courier = new Courier({
      db: this.db,
      outbox: this.store.outbox,
      channels: (given.channels ?? openChannels)(this.db),
      nowMs: () => this.clock.nowMs(),
      // A demo’s clock that was turned jumps over the moments at which things would have gone.
      atOf: ({ nextAt }) => (this.known?.workspace.demo ? nextAt : this.clock.nowMs()),
      ...(given.leaseMs === undefined ? {} : { leaseMs: given.leaseMs }),
      delivered: (row, atMs, { answer }) => {
        if (row.channel === 'web') sent = replied(this, row.key, 'taken', answer) || sent
        if (!row.more) return
        letterSent(this, row, atMs)
        sent = true
      },
      gaveUp: (row, because, { answer }) => {
        if (row.channel === 'web') sent = replied(this, row.key, 'refused', answer, because) || sent
        else messageGivenUp(this, row, because)
      },
      handed: () => {
        this.live.tell({ about: 'sent' })
        // That it went is an activity, by which rules may start: of all that went together at once.
        if (sent) this.drain()
        sent = false
      },
      trouble: given.trouble ?? (() => {}),
    })
    this.world = new LiveWorld(this.db, this.store, this.clock, () => this.catalogue())
    this.world.matcher = () => this.matcher()
    this.store.records.linkedTo = (ref, object) => this.world.linked(ref, object).map(({ record }) => record)
    this.world.capped = (runId) => this.capped(runId)
    this.world.noticed = (personId) =>
      this.db.afterwards(() => this.live.tell({ about: 'notices', people: [personId] }))
    this.catalogueChanged()
    this.readClock()
  }

  private readClock(): void {
    if (this.clock instanceof TurnedClock)
      this.clock.aheadMs = this.known?.workspace.demo ? this.store.catalogue.clockAhead() : 0
  }

  /** Sets the clock of a demo workspace ahead of the machine's. */
  turnTo(atMs: number): void {
    if (!(this.clock instanceof TurnedClock)) return
    this.clock.aheadMs = atMs - Date.now()
    this.store.catalogue.setClockAhead(this.clock.aheadMs)
    this.bump('clock')
  }

  readonly clock: Clock
  private readonly floodFrom: number

  /** Fields, pipelines and people. Throws while nobody has set the workspace up. */
  catalogue(): Catalogue {
    if (!this.known)
      throw new EmptyWorkspaceError(
        'This workspace is not set up. Open it in a browser, or run “npm run demo” for the demo.',
      )
    return this.known
  }

  /** The same, or `null` while nobody has set the workspace up. */
  catalogueOrNull(): Catalogue | null {
    return this.known
  }

  /** Reads fields, pipelines and people anew; call after any change of them. */
  catalogueChanged(): void {
    this.matching = null
    this.revision = { ...this.revision, catalogue: this.store.revisions.now().catalogue }
    this.known = this.store.catalogue.read()
    if (!this.known) return
    const columns = this.store.catalogue.indexedFields()
    this.store.records.useFields(this.known, new Set(columns.filter((field) => field.indexed).map((field) => field.id)))
  }

  addFields(fields: readonly NewField[]): void {
    for (const field of fields) this.store.catalogue.addField(field)
    this.catalogueChanged()
  }

  /** Fields, pipelines or people are other than they were: reads them anew and tells open screens. */
  tellCatalogue(): void {
    // In one commit: who hears of a field finds its columns there.
    this.db.together(() => {
      this.store.revisions.bump('catalogue')
      this.catalogueChanged()
    })
    this.live.tell({ about: 'catalogue' })
  }

  rulesChanged(): void {
    tidySegments(this)
    this.bump('rules')
    this.matching = null
    this.live.tell({ about: 'rules' })
  }

  /**
   * Notices what another thread or process changed of rules, fields, pipelines, people and the clock, and tells open
   * screens. One cheap look where nothing changed: before every request, and every second besides.
   */
  keepUp(): void {
    const now = this.store.revisions.now()
    const anew = (['catalogue', 'rules', 'clock'] as const).filter((one) => now[one] !== this.revision[one])
    if (anew.includes('catalogue')) this.catalogueChanged()
    if (anew.includes('rules')) this.matching = null
    if (anew.includes('clock')) this.readClock()
    const first = this.revision.rules < 0
    if (anew.length > 0 && !first && this.live.heard)
      this.db.afterwards(() => anew.forEach((about) => this.live.tell({ about })))
    this.revision =
      now.stock === this.revision.stock || this.revision.stock < 0 || this.rereadStock()
        ? now
        : { ...now, stock: this.revision.stock }
  }

  /** Lets others know; what one did oneself is no news. Nothing else may have been missed before. */
  private bump(what: 'rules' | 'clock'): void {
    const known = this.revision[what]
    this.store.revisions.bump(what)
    const now = this.store.revisions.now()[what]
    if (now === known + 1) this.revision = { ...this.revision, [what]: now }
  }

  /** Lets SQLite look how values are spread, and every other thread and process know that it did. */
  analyze(): void {
    this.db.inTurn(() => this.db.analyze())
    this.store.revisions.bump('stock')
  }

  /** Answers whether it could: it takes a moment without another writer, and can as well be done the next time. */
  private rereadStock(): boolean {
    try {
      this.db.inTurn(() => this.db.rereadStock())
      return true
    } catch (error) {
      if (error instanceof Error && 'code' in error && String(error.code).startsWith('SQLITE_BUSY')) return false
      throw error
    }
  }

  /** The rules that run, and which of them are paused, as they are now. */
  matcher(): Matcher {
    if (!this.matching) {
      this.world.paused = new Set(this.store.ruleJobs.pauses().keys())
      this.matching = new Matcher(this.activeRules(), this.catalogue())
      this.world.byContact = this.matching.clocked.some(
        ({ document, clocks }) =>
          document.object === 'deal' && clocks.some(({ trigger }) => trigger.zone === 'contact'),
      )
    }
    return this.matching
  }

  activeRules(): readonly ActiveRule[] {
    return this.store.rules.active()
  }

  moment(): Moment {
    return momentAt(this.clock.nowMs(), this.catalogue().workspace)
  }

  today(): string {
    return this.moment().today
  }

  /** A person's change of a record, with everything rules do because of it. Throws `RefusedError`. */
  change(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    personId: string,
  ): { readonly event: ChangeEvent | null; readonly reports: readonly RunReport[] } {
    const written = this.world.write(ref, values, { by: 'person', personId }, newChain())
    if (!written.ok) throw new RefusedError(written.problems)
    return { event: written.event, reports: written.event ? this.drain() : [] }
  }

  /** A new record made by a person, with everything rules do because of it. Throws `RefusedError`. */
  create(
    object: ObjectKind,
    values: Values,
    linkTo: readonly RecordRef[],
    personId: string,
  ): { readonly ref: RecordRef; readonly reports: readonly RunReport[] } {
    const ref = this.createBy(object, values, linkTo, { by: 'person', personId })
    return { ref, reports: this.drain() }
  }

  /** Links a record to another; what is linked already gets another role, and becomes the main link when asked. */
  link(from: RecordRef, to: RecordRef, role: string, main: boolean, personId: string): void {
    this.db.together(() => {
      this.world.link(from, to, { by: 'person', personId }, role)
      this.store.links.change(from, to, role, main)
      // Which is the main one may be another now.
      if (main) this.world.linksChanged([from, to], { by: 'person', personId })
    })
    this.drain()
    this.live.tell({ about: 'records', refs: [from, to] })
  }

  /** Takes a link away; answers whether there was one. */
  unlink(from: RecordRef, to: RecordRef, personId: string): boolean {
    const gone = this.world.unlink(from, to, { by: 'person', personId })
    this.drain()
    if (gone !== null) this.live.tell({ about: 'records', refs: [from, to] })
    return gone !== null
  }

  /** Creates without letting rules run yet; `drain` does. */
  createBy(
    object: ObjectKind,
    values: Values,
    linkTo: readonly RecordRef[],
    cause: Cause,
    rulesOff = false,
  ): RecordRef {
    const made = this.world.create(object, values, linkTo, cause, newChain(), rulesOff)
    if (!made.ok) throw new RefusedError(made.problems)
    if (!made.ref) throw new Error('a created record has a reference')
    return made.ref
  }

  /**
   * Lets rules run for every event that none has seen yet, those that they make themselves included. Events and the
   * position in the log commit together, so that after a crash this goes on where it was.
   */
  drain(): readonly RunReport[] {
    const all = this.handleNew()
    // Nothing leaves the house that could still be taken back.
    this.db.afterwards(() => this.courier.wake())
    return all
  }

  /** As `drain`, without handing over what is to leave the house. */
  handleNew(): readonly RunReport[] {
    const all: RunReport[] = []
    for (let more = true; more;) {
      const { events, reports } = this.handleBatch()
      for (const report of reports) all.push(report)
      this.ran(reports)
      this.tell(events, reports)
      more = events.length > 0
    }
    return all
  }

  /**
   * Takes the next events through their rules. Nearly always nothing goes wrong, and a savepoint for each run costs a
   * fifth of the whole; so they go without first, and once more with when a run threw.
   */
  private handleBatch(): { readonly events: readonly ChangeEvent[]; readonly reports: readonly RunReport[] } {
    const work = (guarded: boolean) => () => {
      this.keepUp()
      const matcher = this.matcher()
      const events = this.store.events.after(this.store.events.position(READER), BATCH)
      const starts = new Map<number, number>()
      let waiting = this.store.waits.any()
      const reports = events.flatMap((event) => {
        knowByEmail(this, event)
        const { woken, started } = processEvent(this.world, matcher, event, { guarded, waiting })
        waiting ||= started.some((report) => report.state === 'waiting')
        // What somebody asked for just now is no surprise, however much it is: they saw the number.
        if (event.kind !== 'started' || event.cause.by !== 'person')
          for (const { ruleId } of started) starts.set(ruleId, (starts.get(ruleId) ?? 0) + 1)
        return [...woken, ...started]
      })
      for (const [ruleId, count] of starts) this.watchRate(ruleId, count)
      const last = events.at(-1)
      if (last) this.store.events.setPosition(READER, last.seq)
      return { events, reports }
    }
    try {
      return this.db.atomically(work(false))
    } catch {
      return this.db.atomically(work(true))
    }
  }

  /** Pauses a rule that is started far more often than usual, until somebody says that it may go on. */
  private watchRate(ruleId: number, count: number): void {
    if (this.floodFrom === Infinity) return
    const { ruleJobs } = this.store
    const nowMs = this.clock.nowMs()
    const hour = Math.floor(nowMs / HOUR_MS)
    const starts = ruleJobs.count(ruleId, hour, count)
    if (starts <= this.floodFrom) return
    const usual = ruleJobs.usual(ruleId, hour)
    if (starts <= usual * FLOOD_TIMES) return
    this.pause(ruleId, { atMs: nowMs, starts, usual })
  }

  private pause(ruleId: number, why: Pause): void {
    this.store.ruleJobs.pause(ruleId, why)
    rulePaused(this.world.troubles(), ruleId, why)
    this.store.revisions.bump('rules')
    this.matching = null
    this.world.paused = new Set([...this.world.paused, ruleId])
    this.db.afterwards(() => this.live.tell({ about: 'rules' }))
  }

  /** A rule that has sent as many messages in an hour as it may asks before it goes on. */
  private capped(runId: number): void {
    const ruleId = this.store.runs.get(runId)?.ruleId
    if (ruleId === undefined || this.world.paused.has(ruleId)) return
    const { ruleHour } = this.catalogue().messaging
    this.pause(ruleId, { atMs: this.clock.nowMs(), starts: 0, usual: 0, messages: ruleHour })
  }

  /** Lets a paused rule go on; what it is started by in this hour is counted anew. */
  goOn(ruleId: number): void {
    const hour = Math.floor(this.clock.nowMs() / HOUR_MS)
    this.store.ruleJobs.forget(ruleId, hour)
    this.store.ruleJobs.resume(ruleId, this.clock.nowMs())
    this.store.waits.wakeHeld(ruleId, this.clock.nowMs())
    this.rulesChanged()
  }

  /** Counts and tells of runs that something else than an event took on. */
  told(events: readonly ChangeEvent[], reports: readonly RunReport[]): void {
    if (reports.length === 0) return
    this.ran(reports)
    this.db.afterwards(() => this.tell(events, reports))
  }

  private tell(events: readonly ChangeEvent[], reports: readonly RunReport[]): void {
    if (events.length + reports.length === 0 || !this.live.heard) return
    const summaries = reports.flatMap((report) =>
      report.steps.flatMap((step) => (step.state === 'done' ? step.wrote.map(summaryOf) : [])),
    )
    const touched = [
      ...events.map((event) => event.ref),
      ...reports.map((report) => report.ref),
      ...summaries.flatMap((one) => one.records ?? []),
    ]
    const refs = new Map(touched.map((ref) => [`${ref.object}:${ref.id}`, ref]))
    this.live.tell({ about: 'records', refs: [...refs.values()] })
    const today = this.today()
    for (const report of reports.length > TOLD_MOST ? [] : reports) {
      const names = { catalogue: this.catalogue(), object: report.ref.object }
      const text = sayReport(report, names, today)
      if (text === null) continue
      this.live.tell({
        about: 'run',
        runId: report.runId,
        ruleId: report.ruleId,
        ruleName: report.ruleName,
        ref: report.ref,
        recordName: this.nameOf(report.ref),
        state: report.state,
        text,
      })
    }
    if (reports.some((report) => report.state === 'waiting') || summaries.some((one) => one.ahead))
      this.live.tell({ about: 'ahead' })
    const told = new Set(summaries.flatMap((one) => one.noticed ?? []))
    if (told.size > 0) this.live.tell({ about: 'notices', people: [...told] })
    const people = new Set(
      summaries.flatMap(({ task }) =>
        !task
          ? []
          : task.assigneeId !== null
            ? [task.assigneeId]
            : this.catalogue()
                .people.filter((person) => person.team === task.queue)
                .map((person) => person.id),
      ),
    )
    if (people.size > 0) this.live.tell({ about: 'tasks', people: [...people] })
  }

  /** A record as conditions are asked of it now. */
  subject(record: RecordSnapshot): Subject {
    return subjectOf(record, this.world)
  }

  nameOf(ref: RecordRef): string {
    const name = this.store.records.read(ref)?.values.name ?? this.store.gone.get(ref)?.name
    return typeof name === 'string' ? name : `${ref.object} ${ref.id}`
  }

  /** Closes the database; what is on its way to somebody is claimed by others later. */
  close(): void {
    this.courier.drop()
    this.db.close()
  }
}
