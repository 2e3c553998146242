import { derivationsOf } from '../../core/derived/derivations'
import { readRates, type RatesFile } from '../../core/formats/rates-csv'
import { isForeign } from '../../core/money/worth'
import type { Rate, RatesFrom } from '../../core/money/rates'
import { addDays, dateAt, weekday } from '../../core/time/dates'
import { sayDate } from '../../core/time/say'
import { instantAt } from '../../core/time/moments'
import { publishedRates } from '../stand-ins/central-bank'
import { workAnew } from './derived'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** What currencies are worth: rates that people enter, bring in as a file, or have delivered. */

/** The currencies that amounts of records can be in, but for the workspace's own. */
export function codesInUse(workspace: Workspace): readonly string[] {
  const catalogue = workspace.catalogue()
  const codes = new Set(
    catalogue.data.fields.filter(isForeign).flatMap((field) => {
      const code = catalogue.field(field.object, field.currencyKey ?? '')
      return code?.choices.map(({ id }) => id.toUpperCase()) ?? []
    }),
  )
  codes.delete(catalogue.workspace.currency)
  return [...codes].sort()
}

/** Everything that hangs on what currencies are worth is worked out anew. */
function changed(workspace: Workspace, personId: string | null): void {
  workspace.store.revisions.bump('catalogue')
  workspace.catalogueChanged()
  const catalogue = workspace.catalogue()
  const ids = derivationsOf(catalogue)
    .all.filter(({ depends }) => depends.byRates)
    .map(({ field }) => field.id)
  const by = personId ?? catalogue.people.find((person) => person.role === 'specialist' && person.active)?.id
  if (ids.length > 0 && by !== undefined) workAnew(workspace, ids, by)
  workspace.db.afterwards(() => workspace.live.tell({ about: 'catalogue' }))
}

/** Refuses what no rate can be: of the own currency, of one that no record is in, of a day to come. */
function check(workspace: Workspace, { code, day, perOwn }: Rate): void {
  const { currency } = workspace.catalogue().workspace
  if (code === currency) throw refuse('code', { code: 'ownCurrency', currency: code })
  if (!codesInUse(workspace).includes(code)) throw refuse('code', { code: 'currencyUnused', currency: code })
  if (day > workspace.today()) throw refuse('day', { code: 'future', day: sayDate(day) })
  if (!(perOwn > 0 && perOwn < 1e9)) throw refuse('perOwn', { code: 'rateAboveZero' })
}

/** Sets one rate. Throws `RefusedError`. */
export function setRate(workspace: Workspace, rate: Rate, personId: string): void {
  check(workspace, rate)
  workspace.db.atomically(() => {
    workspace.store.rates.put([rate])
    changed(workspace, personId)
  })
}

/** Takes one rate away; answers whether it was there. */
export function removeRate(workspace: Workspace, code: string, day: string, personId: string): boolean {
  return workspace.db.atomically(() => {
    const there = workspace.store.rates.remove(code, day)
    if (there) changed(workspace, personId)
    return there
  })
}

export interface RatesPlan {
  /** Days of the file with a rate for a currency in use. */
  readonly days: number
  readonly from: string | null
  readonly to: string | null
  readonly added: number
  readonly changed: number
  readonly same: number
  /** Codes in the file that no record can be in. */
  readonly left: readonly string[]
}

/** What a file of rates would do. Throws `RefusedError` with the line that cannot be read. */
export function planRates(workspace: Workspace, text: string): { readonly plan: RatesPlan; readonly file: RatesFile } {
  const read = readRates(text, workspace.catalogue().workspace.currency, new Set(codesInUse(workspace)))
  if (!read.ok) throw refuse('text', read.problem)
  const file = read.value
  const late = file.rates.find(({ day }) => day > workspace.today())
  if (late) throw refuse('text', { code: 'future', day: sayDate(late.day) })
  const known = new Map(workspace.store.rates.all().map(({ code, day, perOwn }) => [`${code} ${day}`, perOwn]))
  const days = [...new Set(file.rates.map(({ day }) => day))].sort()
  const same = file.rates.filter(({ code, day, perOwn }) => known.get(`${code} ${day}`) === perOwn).length
  const added = file.rates.filter(({ code, day }) => !known.has(`${code} ${day}`)).length
  return {
    file,
    plan: {
      days: days.length,
      from: days[0] ?? null,
      to: days.at(-1) ?? null,
      added,
      changed: file.rates.length - same - added,
      same,
      left: file.left,
    },
  }
}

/** Brings a file of rates in. Throws `RefusedError` before anything is written. */
export function importRates(workspace: Workspace, text: string, personId: string): RatesPlan {
  const { plan, file } = planRates(workspace, text)
  if (plan.added + plan.changed === 0) return plan
  workspace.db.atomically(() => {
    workspace.store.rates.put(file.rates)
    changed(workspace, personId)
  })
  return plan
}

/** Says who delivers rates from now on; what is due comes at once. */
export function setRatesFrom(workspace: Workspace, from: RatesFrom | null): void {
  workspace.db.atomically(() => workspace.store.rates.setFrom(from))
  deliverRates(workspace)
}

/** The rates of a day are out at 16:00, in minutes. */
const OUT_AT = 960
/** So many days are made up for at the most. */
const DAYS_MOST = 400

/** Brings in the rates of the working days that are due, where somebody delivers them; answers how many days. */
export function deliverRates(workspace: Workspace): number {
  const { store, clock } = workspace
  if (store.rates.from() === null) return 0
  const { zone, currency } = workspace.catalogue().workspace
  const nowMs = clock.nowMs()
  let last = dateAt(nowMs, zone)
  if (instantAt(last, OUT_AT, zone) > nowMs) last = addDays(last, -1)
  while (weekday(last) > 5) last = addDays(last, -1)
  const newest = store.rates.newestDay()
  if (newest !== null && newest >= last) return 0
  const days: string[] = []
  const wanted = (day: string): boolean => (newest === null ? days.length === 0 : day > newest)
  for (let day = last; days.length < DAYS_MOST && wanted(day); day = addDays(day, -1)) days.push(day)
  const read = readRates(publishedRates(days.reverse()), currency, new Set(codesInUse(workspace)))
  if (!read.ok || read.value.rates.length === 0) return 0
  const { rates } = read.value
  workspace.db.atomically(() => {
    store.rates.put(rates)
    changed(workspace, null)
  })
  return new Set(rates.map(({ day }) => day)).size
}
