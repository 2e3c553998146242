import type { PlacedProblem } from '../language/problems'
import { OBJECT_WORDS } from '../records/kinds'
import { count } from '../language/counts'
import { compileGroup, type CompiledGroup } from '../conditions/compile'
import type { Subject } from '../conditions/subject'
import type { Catalogue } from '../fields/catalogue'
import { foldText } from '../language/value'
import type { Activity } from '../records/activity'
import type { ObjectKind } from '../records/kinds'
import { dateAt, daysBetween } from '../time/dates'
import { sayGroup } from '../conditions/compile'
import type { Moment } from '../conditions/moment'
import type { Fading, ScoreLine, Band, Scorecard } from './card'

/** What one line gave. */
export interface LineScore {
  readonly id: string
  readonly points: number
  /** How often it happened; 1 or 0 for what a record is. */
  readonly times: number
  /** When it happened last. */
  readonly lastMs: number | null
  /** Whether it would give more and may not. */
  readonly capped: boolean
}

export interface Score {
  readonly points: number
  readonly band: string | null
  readonly lines: readonly LineScore[]
}

export interface ScoredBy {
  readonly subject: Subject
  /** What happened around the record itself, or around its linked ones of a kind. */
  activities(from: ObjectKind | null): readonly Activity[]
}

export interface CompiledCard {
  readonly card: Scorecard
  score(by: ScoredBy, moment: Moment): Score
}

/** Points are kept to a tenth: fading would otherwise change every one of them a little every day. */
const rounded = (points: number): number => Math.round(points * 10) / 10 + 0

const weight = (fading: Fading, days: number): number => {
  switch (fading.how) {
    case 'never':
      return 1
    case 'half':
      return 0.5 ** (Math.max(0, days) / fading.days)
    case 'gone':
      return days < fading.days ? 1 : 0
  }
}

/** Days are kept by their first moment: a score asks for the same few dates again and again. */
const dayKept = new Map<string, Map<number, string>>()
function dayAt(atMs: number, zone: string): string {
  const hour = Math.floor(atMs / 900_000)
  const known = dayKept.get(zone) ?? new Map<number, string>()
  dayKept.set(zone, known)
  let found = known.get(hour)
  if (found === undefined) {
    if (known.size > 20_000) known.clear()
    known.set(hour, (found = dateAt(atMs, zone)))
  }
  return found
}

export function bandOf(card: Pick<Scorecard, 'bands'>, points: number): Band | null {
  return card.bands.findLast((band, i) => i === 0 || points >= band.from) ?? null
}

/** Compiled once for a version of a card. */
export function compileCard(card: Scorecard, catalogue: Catalogue): CompiledCard {
  const groups = new Map<string, CompiledGroup>(
    card.lines.flatMap((line) =>
      line.for.what === 'being' ? [[line.id, compileGroup(line.for.where, card.object, catalogue)] as const] : [],
    ),
  )
  const folded = new Map(
    card.lines.flatMap((line) => (line.for.what === 'doing' ? [[line.id, foldText(line.for.about)] as const] : [])),
  )
  function lineScore(line: ScoreLine, by: ScoredBy, moment: Moment): LineScore {
    const { id, points, most } = line
    if (line.for.what === 'being') {
      const holds = groups.get(id)?.test(by.subject, moment) ?? false
      return { id, points: holds ? points : 0, times: holds ? 1 : 0, lastMs: null, capped: false }
    }
    const { kind, from, fading } = line.for
    const about = folded.get(id) ?? ''
    let [sum, times, lastMs]: [number, number, number | null] = [0, 0, null]
    for (const one of by.activities(from)) {
      if (one.kind !== kind || one.atMs > moment.nowMs || (about !== '' && !foldText(one.about).includes(about)))
        continue
      times++
      lastMs = Math.max(lastMs ?? 0, one.atMs)
      sum +=
        points * weight(fading, fading.how === 'never' ? 0 : daysBetween(dayAt(one.atMs, moment.zone), moment.today))
    }
    const capped = most !== null && Math.abs(sum) > most
    return { id, points: rounded(capped ? Math.sign(sum) * most : sum), times, lastMs, capped }
  }
  return {
    card,
    score(by, moment) {
      const lines = card.lines.map((line) => lineScore(line, by, moment))
      const sum = lines.reduce((all, line) => all + line.points, 0)
      const points = rounded(Math.min(card.most ?? Infinity, Math.max(card.least ?? -Infinity, sum)))
      return { points, band: bandOf(card, points)?.id ?? null, lines }
    },
  }
}

/** Whether a line counts less as days go by. */
export const fades = (line: ScoreLine): boolean => line.for.what === 'doing' && line.for.fading.how !== 'never'

/** What a line is for, in words: "page visits of contacts with “prices” in the address, half after 14 days". */
export function sayLine(line: ScoreLine, object: ObjectKind, catalogue: Catalogue): string {
  if (line.for.what === 'being')
    return line.for.where.items.length === 0 ? `every ${object}` : sayGroup(line.for.where, object, catalogue, 'the')
  const { kind, about, from, fading } = line.for
  const words = catalogue.activities.words(kind)
  const whose = from ? ` of ${OBJECT_WORDS[from].many}` : ''
  const what = about === '' ? '' : ` with “${about}” in the ${words.about}`
  const said = `${words.many}${whose}${what}`
  if (fading.how === 'never') return said
  return `${said}, ${fading.how === 'half' ? 'half' : 'none'} after ${count(fading.days, 'day')}`
}

/** What keeps a card from being kept, with its place; `null` when nothing does. */
export function cardProblem(card: Pick<Scorecard, 'lines' | 'bands' | 'least' | 'most'>): PlacedProblem | null {
  if (card.least !== null && card.most !== null && card.least >= card.most)
    return { path: 'most', problem: { code: 'mostAboveLeast' } }
  const wrong = card.bands.findIndex((band, i) => i > 0 && band.from <= (card.bands[i - 1]?.from ?? -Infinity))
  if (wrong >= 0)
    return {
      path: `bands.${wrong}.from`,
      problem: { code: 'bandOrder', band: card.bands[wrong]?.name ?? '' },
    }
  const ids = [...card.bands.map((band) => band.id), ...card.lines.map((line) => line.id)]
  const double = ids.find((id, i) => ids.indexOf(id) !== i)
  if (double !== undefined) return { path: 'lines', problem: { code: 'idTwice', id: double } }
  const idle = card.lines.findIndex((line) => line.points === 0)
  return idle >= 0 ? { path: `lines.${idle}.points`, problem: { code: 'noPoints' } } : null
}
