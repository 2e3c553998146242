import { readRates } from '../core/formats/rates-csv'
import { sayProblem } from '../core/language/problems'
import { codesInUse } from '../server/engine/rates'
import { publishedRates } from '../server/stand-ins/central-bank'
import { existsSync, rmSync } from 'node:fs'
import { countrySpellings } from '../core/synonyms/countries'
import { JOB_ROLES } from '../core/synonyms/job-roles'
import { nextDue, workDue } from '../core/engine/clockwork'
import { momentAt } from '../core/engine/moment'
import { addDays, dateAt, instantOf } from '../core/time/dates'
import type { Value } from '../core/language/value'
import type { RecordRef } from '../core/records/kinds'
import { isLeftAlone } from '../core/results/left-alone'
import { stableShare } from '../core/results/stable'
import { DEMO_PASSWORD } from '../server/auth/demo'
import { hashPassword } from '../server/auth/password'
import { openChannels } from '../server/channels'
import { planClock } from '../server/engine/clockwork'
import { Courier } from '../server/engine/courier'
import { SetClock } from '../server/engine/clock'
import { makeDerived, workSomeDerived } from '../server/engine/derived'
import { tellActivities } from '../server/engine/activities'
import { searchHabits } from '../server/engine/habits'
import { countResults } from '../server/engine/results'
import { makeCard } from '../server/engine/scorecards'
import { Workspace } from '../server/engine/workspace'
import { factsAt, FIELDS, peopleAt, PIPELINES } from './larkmoor'
import { DEMO_SIZE, generate, type Act, type Size } from './generate'
import { Random } from './random'
import { rulesByWorth, SCORECARDS, WORKED_OUT } from './derived'
import { RULES } from './rules'
import { CALLED_ALONE, CALLS_QUOTES } from './rules/by-the-clock'
import { ACTIVITY_RULES } from './rules/by-activities'
import { Bookings } from './bookings'
import { addMessaging, deliverAll } from './messages'
import { addConnection } from '../server/engine/connections'
import { messageRules } from './rules/messages'
import { outsideRules } from './rules/outside'
import { makeProblems, MISTAKEN_RULE } from './problems'
import type { DemoRule } from './rules/parts'
import { SEGMENTS, TERRITORIES } from './filters'

const SPECIALIST = 'ines'
const OUTCOMES = [
  'reached, all fine',
  'left a message, will call again',
  'done',
  'needs another week',
  'sent what they asked for',
]

export interface FillOptions {
  readonly dbFile: string
  readonly migrationsFolder: string
  readonly nowMs: number
  readonly seed?: number
  /** Of the password that all demo accounts share; without one nobody can sign in. */
  readonly passwordHash?: string | null
  readonly size?: Size
  /** As for a workspace: from how many starts in an hour on a rule may be paused. */
  readonly floodFrom?: number
}

/** The workspace with its fields, pipelines and people, and nothing in it. */
export function openLarkmoor(
  { dbFile, migrationsFolder, nowMs, passwordHash = null, floodFrom }: FillOptions,
  clock: SetClock,
): Workspace {
  const today = dateAt(nowMs, 'Europe/Lisbon')
  const workspace = new Workspace({
    dbFile,
    migrationsFolder,
    clock,
    ...(floodFrom === undefined ? {} : { floodFrom }),
  })
  workspace.db.atomically(() => {
    const { catalogue } = workspace.store
    catalogue.setUp(factsAt(today))
    for (const person of peopleAt(today)) workspace.store.people.add(person, passwordHash)
    PIPELINES.forEach(({ stages, ...pipeline }, position) =>
      catalogue.addPipeline({
        ...pipeline,
        position,
        stages: stages.map(([id, name, outcome]) => ({ id, name, outcome })),
      }),
    )
    const countries = catalogue.addSynonymSet('Countries', countrySpellings())
    catalogue.addSynonymSet('Job roles', JOB_ROLES)
    catalogue.setTerritories(TERRITORIES)
    for (const field of FIELDS)
      catalogue.addField(
        field.object === 'company' && field.key === 'country'
          ? { ...field, synonyms: countries, indexed: true }
          : field,
      )
  })
  workspace.catalogueChanged()
  return workspace
}

/** Plays the last 90 days through the engine, people's acts and all that rules did because of them. */
export function fillLarkmoor(options: FillOptions): Workspace {
  const { nowMs, seed = 20_261, size = DEMO_SIZE } = options
  const today = dateAt(nowMs, 'Europe/Lisbon')
  const clock = new SetClock(instantOf(addDays(today, -90), 7, 0, 'Europe/Lisbon'))
  const workspace = openLarkmoor(options, clock)
  const { zone } = workspace.catalogue().workspace
  workspace.db.atomically(() => {
    for (const segment of SEGMENTS) workspace.store.segments.add({ ...segment, down: false }, SPECIALIST, clock.nowMs())
  })
  addRates(workspace, today)
  workspace.catalogueChanged()
  addRules(workspace)
  // The daily reckoning of the last weeks is played through as well; with very many records there are none to play
  // through.
  const reckonFrom = size.deals > DEMO_SIZE.deals ? nowMs : instantOf(addDays(today, -21), 6, 0, 'Europe/Lisbon')
  let reckoned = false
  // Of very many records nobody is written to: there would be nothing else to see.
  const writeFrom = size.deals > DEMO_SIZE.deals ? Infinity : instantOf(addDays(today, -12), 6, 0, 'Europe/Lisbon')
  let templates: ReadonlyMap<string, number> | null = null
  const acts = generate(seed, size, {
    today,
    zone,
    nowMs,
    calendar: momentAt(nowMs, workspace.catalogue().workspace).calendar,
  })
  const made = {
    company: new Map<number, RecordRef>(),
    contact: new Map<number, RecordRef>(),
    deal: new Map<number, RecordRef>(),
  }
  const random = new Random(seed + 1)
  // With very many records nobody books: each booking looks through all appointments.
  const bookings = size.deals > DEMO_SIZE.deals ? null : new Bookings(workspace, new Random(seed + 9))
  workspace.db.atomically(() => {
    for (const act of acts) {
      if (!reckoned && act.atMs >= reckonFrom) {
        letTimePass(workspace, clock, reckonFrom)
        reckon(workspace)
        reckoned = true
      }
      if (templates === null && act.atMs >= writeFrom) {
        letTimePass(workspace, clock, writeFrom)
        templates = addMessaging(workspace, SPECIALIST)
        addRules(workspace, messageRules(templates))
        addRules(workspace, [MISTAKEN_RULE])
        addRules(workspace, outsideRules(addConnection(workspace, 'Order system', '', {}).id))
      }
      for (const { atMs, over } of bookings?.overBy(act.atMs) ?? []) {
        letTimePass(workspace, clock, atMs)
        over()
      }
      letTimePass(workspace, clock, act.atMs)
      play(workspace, act, addDays(today, -18), made, random, bookings)
    }
  })
  letTimePass(workspace, clock, nowMs)
  if (!reckoned) reckon(workspace)
  addRules(workspace, ACTIVITY_RULES)
  if (templates) {
    deliverAll(workspace)
    makeProblems(workspace, SPECIALIST)
  }
  workspace.db.analyze()
  return workspace
}

/** What currencies were worth on the working days of the last four months, as the simulated central bank says. */
function addRates(workspace: Workspace, today: string): void {
  const days = Array.from({ length: 120 }, (_, i) => addDays(today, i - 120))
  const read = readRates(publishedRates(days), workspace.catalogue().workspace.currency, new Set(codesInUse(workspace)))
  if (!read.ok) throw new Error(sayProblem(read.problem))
  workspace.store.rates.put(read.value.rates)
  workspace.store.rates.setFrom('simulated')
}

/** Fields that are worked out, scorecards, and the rules that go by them. */
function reckon(workspace: Workspace): void {
  for (const given of WORKED_OUT) makeDerived(workspace, given, SPECIALIST)
  for (const { object, ...card } of SCORECARDS) makeCard(workspace, object, card, SPECIALIST)
  while (workSomeDerived(workspace, () => false)) {
    /* Until all of them are. */
  }
  const segment = workspace.store.segments.named('deal', 'Two weeks past expected close')
  addRules(workspace, segment ? rulesByWorth(segment.id) : [])
}

/** Goes to an instant by way of every moment before it at which something falls due. */
function letTimePass(workspace: Workspace, clock: SetClock, toMs: number): void {
  for (let due = nextDue(workspace.world); due !== null && due <= toMs; due = nextDue(workspace.world)) {
    clock.set(Math.max(due, workspace.clock.nowMs()))
    workDue(workspace.world, workspace.matcher(), 200)
    workspace.drain()
  }
  clock.set(toMs)
}

function addRules(workspace: Workspace, some: readonly DemoRule[] = RULES): void {
  const { rules } = workspace.store
  for (const { state, document } of some) {
    const id = rules.create(document, SPECIALIST, workspace.clock.nowMs())
    if (state === 'draft') continue
    rules.publish(id, document, SPECIALIST, workspace.clock.nowMs())
    rules.setState(id, state, SPECIALIST, workspace.clock.nowMs())
  }
  workspace.rulesChanged()
  planClock(workspace)
}

function play(
  workspace: Workspace,
  act: Act,
  recent: string,
  made: { readonly [K in 'company' | 'contact' | 'deal']: Map<number, RecordRef> },
  random: Random,
  bookings: Bookings | null,
): void {
  switch (act.act) {
    case 'company':
      made.company.set(act.index, workspace.create('company', act.values, [], SPECIALIST).ref)
      return
    case 'contact':
      made.contact.set(
        act.index,
        workspace.create(
          'contact',
          act.values,
          act.company === null ? [] : [made.company.get(act.company)].flatMap((ref) => ref ?? []),
          SPECIALIST,
        ).ref,
      )
      return
    case 'deal': {
      const linked = [made.company.get(act.company), made.contact.get(act.contact)].flatMap((ref) => ref ?? [])
      made.deal.set(act.index, workspace.create('deal', act.values, linked, act.by).ref)
      return
    }
    case 'change': {
      const ref = made.deal.get(act.index)
      if (ref && !staysUnanswered(workspace, ref, act.values.stage)) workspace.change(ref, act.values, act.by)
      return
    }
    case 'activity': {
      const ref = made.contact.get(act.contact)
      if (ref && bookings?.take(ref, act)) return
      if (ref) tellActivities(workspace, [{ record: ref, kind: act.kind, about: act.about, atMs: act.atMs, key: null }])
      return
    }
    case 'workOff':
      for (const task of workspace.store.tasks.openFor(act.by, act.day)) {
        // What asks for something is left to whoever looks at the demo.
        if (task.asks) continue
        if (random.chance(act.day > recent ? 0.06 : 0.4))
          workspace.store.tasks.finish(task.id, act.by, random.pick(OUTCOMES), workspace.clock.nowMs())
      }
  }
}

/**
 * In the demo the calls of a rule do some good: of the quotes that it left alone most are not answered for now, so that
 * its results have something to tell.
 */
function staysUnanswered(workspace: Workspace, ref: RecordRef, stage: Value | undefined): boolean {
  if (stage !== 'hp-terms' && stage !== 'hp-signed') return false
  const rule = workspace.store.rules.all().find(({ draft }) => draft.name === CALLS_QUOTES)
  return rule !== undefined && isLeftAlone(rule.id, ref, CALLED_ALONE) && stableShare(`stays ${ref.id}`) < 0.8
}

/** Run from the command line: fills the file once and leaves one that is there alone, unless told `--fresh`. */
export async function main(args: readonly string[]): Promise<void> {
  const dbFile = process.env.SKY_LEVER_DB ?? '.data/sky-lever.db'
  if (args.includes('--fresh')) for (const end of ['', '-wal', '-shm']) rmSync(dbFile + end, { force: true })
  if (existsSync(dbFile)) {
    console.log(`Demo workspace ${dbFile} kept. Use “npm run demo -- --fresh” to start over.`)
    return
  }
  const started = Date.now()
  const size = Number(process.env.SKY_LEVER_DEALS ?? DEMO_SIZE.deals)
  const half = { companies: Math.ceil(size * 0.55), contacts: Math.ceil(size * 1.36), deals: size }
  const workspace = fillLarkmoor({
    dbFile,
    migrationsFolder: 'server/db/migrations',
    nowMs: Date.now(),
    passwordHash: await hashPassword(DEMO_PASSWORD),
    size: size === DEMO_SIZE.deals ? DEMO_SIZE : half,
  })
  // What was wanted on the way was handed over then.
  const { db, store } = workspace
  await new Courier({
    db,
    outbox: store.outbox,
    channels: openChannels(db),
    nowMs: () => workspace.clock.nowMs(),
    atOf: (row) => row.createdAt,
  }).run()
  // What a server would work out at its first start stands there already; over very many records it takes its time.
  if (size === DEMO_SIZE.deals) {
    const control = { awaited: () => false, nowMs: () => performance.now(), pause: () => Promise.resolve() }
    await countResults(workspace, control)
    await searchHabits(workspace, control)
  }
  const count = store.records.count('deal')
  workspace.close()
  const seconds = ((Date.now() - started) / 1000).toFixed(1)
  console.log(`Demo workspace ${dbFile} created: ${count} deals, 90 days of history, ${seconds} seconds.`)
}
