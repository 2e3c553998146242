import { Asked, derivationsOf } from '../../core/derived/derivations'
import { Catalogue } from '../../core/fields/catalogue'
import { KEPT } from '../../core/fields/define'
import { foldText } from '../../core/language/value'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { bandOf, cardProblem, compileCard, sayLine, type LineScore } from '../../core/scoring/scorecard'
import { workAnew } from './derived'
import { refuseUnknown } from './refuse-unknown'
import { usesBand } from '../../core/rules/uses'
import { keyOf, refuseSameLabel, useOfField } from './fields'
import { ruleUse } from './rules-where'
import type { Scope } from '../../core/access/scope'
import { seenBy } from './seen'
import type { Workspace } from './workspace'
import { bandField, type GivenCard, type Scorecard } from '../../core/scoring/card'
import { refuse } from './refuse'

/** Scorecards: kept with two fields each, one for the points and one for the band. */

const CARDS_MOST = 20

/** Refuses a scorecard whose lines, bands or name do not fit. */
export function checkCard(workspace: Workspace, object: ObjectKind, given: GivenCard, id: number | null): void {
  const catalogue = workspace.catalogue()
  const problem = cardProblem(given)
  if (problem) throw refuse(problem.path, problem.problem)
  const same = catalogue.data.scorecards?.find((card) => card.id !== id && foldText(card.name) === foldText(given.name))
  if (same) throw refuse('name', { code: 'sameName', of: 'scorecard', name: same.name })
  given.lines.forEach((line, i) => {
    if (line.for.what === 'being') refuseUnknown(line.for.where, object, catalogue, `lines.${i}.where`)
    else if (line.for.from === object) throw refuse(`lines.${i}.from`, { code: 'ownActivity', object })
  })
}

/** Makes a scorecard for a kind of record, and begins to work it out for all of them. */
export function makeCard(workspace: Workspace, object: ObjectKind, given: GivenCard, personId: string): number {
  const catalogue = workspace.catalogue()
  if (object === 'deal') throw refuse('object', { code: 'noScoresOf' })
  if ((catalogue.data.scorecards ?? []).length >= CARDS_MOST)
    throw refuse('name', { code: 'noMoreThan', of: 'scorecard', most: CARDS_MOST })
  checkCard(workspace, object, given, null)
  refuseSameLabel(workspace, object, given.name, null)
  refuseSameLabel(workspace, object, `${given.name} band`, null)
  const taken = new Set([
    ...[...catalogue.data.fields, ...(catalogue.data.archived ?? [])]
      .filter((field) => field.object === object)
      .map((field) => field.key),
    ...Object.keys(KEPT),
  ])
  const key = keyOf(given.name, new Set([...taken, ...[...taken].map((one) => one.replace(/Band$/, ''))]))
  const { store } = workspace
  const id = workspace.db.atomically(() => {
    const card = store.catalogue.addScorecard({ object, key, ...given }, personId, workspace.clock.nowMs())
    const base = {
      object,
      description: '',
      keptBy: `set by scorecard “${given.name}”`,
      required: false,
      currencyKey: null,
      synonyms: null,
      position: 500,
    } as const
    const ids = [
      store.catalogue.addField({
        ...base,
        key,
        label: given.name,
        type: 'number',
        made: { by: 'score', card, part: 'points' },
        choices: [],
        indexed: true,
      }),
      store.catalogue.addField({
        ...base,
        key: bandField(key),
        label: `${given.name} band`,
        type: 'choice',
        made: { by: 'score', card, part: 'band' },
        choices: given.bands.map(({ id: band, name }) => ({ id: band, label: name })),
        indexed: false,
      }),
    ]
    workspace.catalogueChanged()
    workAnew(workspace, ids, personId)
    return card
  })
  workspace.tellCatalogue()
  return id
}

const fieldsOf = (workspace: Workspace, card: Scorecard) =>
  workspace.catalogue().data.fields.filter(({ made }) => made?.by === 'score' && made.card === card.id)

/** Changes a scorecard; everybody's score is worked out anew, and no rule hears of that. */
export function changeCard(workspace: Workspace, card: Scorecard, given: GivenCard, personId: string): void {
  checkCard(workspace, card.object, given, card.id)
  const fields = fieldsOf(workspace, card)
  const lost = card.bands.filter((band) => !given.bands.some((one) => one.id === band.id))
  const band = fields.find(({ made }) => made?.by === 'score' && made.part === 'band')
  for (const { id, name } of lost) {
    const use = ruleUse(workspace, (document) => usesBand(document, card, id))
    if (use) throw refuse('bands', { code: 'inUse', name: name, cannot: 'removed', by: use })
  }
  if (given.name !== card.name)
    for (const field of fields)
      refuseSameLabel(workspace, card.object, field === band ? `${given.name} band` : given.name, field.id)
  const { store } = workspace
  workspace.db.atomically(() => {
    store.catalogue.updateScorecard(card.id, given, personId, workspace.clock.nowMs())
    for (const field of fields)
      if (given.name !== card.name)
        store.catalogue.updateField(field.id, { label: field === band ? `${given.name} band` : given.name })
    if (band)
      store.catalogue.setChoices(
        band.id,
        given.bands.map(({ id, name }) => ({ id, label: name })),
      )
    workspace.catalogueChanged()
    workAnew(
      workspace,
      fields.map((field) => field.id),
      personId,
    )
  })
  workspace.tellCatalogue()
}

/** Takes a scorecard away with its two fields; refused while something names them. */
export function removeCard(workspace: Workspace, card: Scorecard): void {
  const fields = fieldsOf(workspace, card)
  for (const field of fields) {
    const use = useOfField(workspace, field)
    if (use) throw refuse('', { code: 'inUse', name: card.name, cannot: 'deleted', by: use })
    const [hung] = derivationsOf(workspace.catalogue()).hungOn(field)
    if (hung) throw refuse('', { code: 'inUse', name: card.name, cannot: 'deleted', by: { field: hung.label } })
  }
  workspace.db.atomically(() => {
    for (const field of fields) workspace.store.catalogue.updateField(field.id, { archived: true })
    workspace.store.catalogue.removeScorecard(card.id)
  })
  workspace.tellCatalogue()
}

export interface ScoreShown {
  readonly card: { readonly id: number; readonly name: string; readonly key: string }
  readonly points: number
  readonly band: string | null
  readonly lines: readonly (LineScore & { readonly text: string })[]
}

/** The scores of a record, line by line, as they are worked out now. */
export function scoresOf(workspace: Workspace, ref: RecordRef, scope: Scope = null): readonly ScoreShown[] {
  const catalogue = workspace.catalogue()
  const record = workspace.store.records.read(ref)
  if (!record) return []
  const seen = seenBy(workspace, scope)
  const asked = new Asked(seen ?? workspace.world, seen ? seen.shown(record) : record, workspace.moment())
  return (catalogue.data.scorecards ?? [])
    .filter((card) => card.object === ref.object)
    .flatMap((card): ScoreShown[] => {
      const compiled = derivationsOf(catalogue).card(card.id)
      if (!compiled) return []
      const { points, lines } = asked.score(compiled)
      return [
        {
          card: { id: card.id, name: card.name, key: card.key },
          points,
          band: bandOf(card, points)?.name ?? null,
          lines: lines.map((line, i) => {
            const of = card.lines[i]
            return { ...line, text: of ? sayLine(of, card.object, catalogue) : '' }
          }),
        },
      ]
    })
}

/** So many bars a distribution has at the most. */
const BARS = 24
const NAMED_MOST = 40
/** More records than this are looked at in part. */
const LOOKED_MOST = 20_000

export interface ScorePreview {
  readonly looked: number
  readonly total: number
  /** Where each bar begins, and how wide it is. */
  readonly from: number
  readonly step: number
  readonly before: readonly number[] | null
  readonly after: readonly number[]
  readonly bands: readonly {
    readonly id: string
    readonly name: string
    readonly before: number | null
    readonly after: number
  }[]
  /** Records that come into another band, the greatest differences first. */
  readonly crossing: readonly {
    readonly id: number
    readonly name: string
    readonly before: number
    readonly after: number
    readonly from: string
    readonly to: string
  }[]
  readonly crossings: number
  /** How much each line gives all records together, and to how many of them. */
  readonly lines: readonly { readonly id: string; readonly points: number; readonly records: number }[]
}

/** What a scorecard as it is written comes to for all records, beside what they have now. */
export function previewCard(
  workspace: Workspace,
  object: ObjectKind,
  given: GivenCard,
  cardId: number | null,
): ScorePreview {
  checkCard(workspace, object, given, cardId)
  const base = workspace.catalogue()
  const kept = cardId === null ? null : base.scorecard(cardId)
  const card: Scorecard = { id: cardId ?? 0, object, key: kept?.key ?? '', ...given }
  const catalogue = new Catalogue({ ...base.data, scorecards: [card] })
  const compiled = compileCard(card, catalogue)
  const moment = workspace.moment()
  const found: { id: number; name: string; before: number; after: number }[] = []
  const lines = new Map(given.lines.map((line) => [line.id, { points: 0, records: 0 }]))
  for (let after = 0; found.length < LOOKED_MOST;) {
    const some = workspace.store.records.behind(object, after, 500)
    for (const record of some) {
      const score = new Asked(workspace.world, record, moment).score(compiled)
      for (const line of score.lines) {
        const sum = lines.get(line.id)
        if (sum && line.points !== 0) {
          sum.points += line.points
          sum.records++
        }
      }
      found.push({
        id: record.id,
        name: String(record.values.name ?? ''),
        before: kept ? Number(record.values[kept.key] ?? 0) : 0,
        after: score.points,
      })
    }
    const last = some.at(-1)
    if (!last || some.length < 500) break
    after = last.id
  }
  const all = found.flatMap((one) => (kept ? [one.before, one.after] : [one.after]))
  const [least, most] = [Math.min(0, ...all), Math.max(1, ...all)]
  const step = niceStep((most - least) / BARS)
  const from = Math.floor(least / step) * step
  const bars = Math.floor((most - from) / step) + 1
  const spread = (values: readonly number[]): readonly number[] => {
    const counts = Array.from({ length: bars }, () => 0)
    for (const value of values) {
      const bar = Math.min(bars - 1, Math.max(0, Math.floor((value - from) / step)))
      counts[bar] = (counts[bar] ?? 0) + 1
    }
    return counts
  }
  const crossing = kept ? found.filter((one) => bandOf(kept, one.before)?.id !== bandOf(card, one.after)?.id) : []
  return {
    looked: found.length,
    total: workspace.store.records.count(object),
    from,
    step,
    before: kept ? spread(found.map((one) => one.before)) : null,
    after: spread(found.map((one) => one.after)),
    bands: given.bands.map(({ id, name }) => ({
      id,
      name,
      before: kept ? found.filter((one) => bandOf(kept, one.before)?.id === id).length : null,
      after: found.filter((one) => bandOf(card, one.after)?.id === id).length,
    })),
    crossing: crossing
      .toSorted((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before) || a.id - b.id)
      .slice(0, NAMED_MOST)
      .map((one) => ({
        ...one,
        from: (kept && bandOf(kept, one.before)?.name) ?? '',
        to: bandOf(card, one.after)?.name ?? '',
      })),
    crossings: crossing.length,
    lines: [...lines].map(([id, sum]) => ({ id, points: Math.round(sum.points * 10) / 10, records: sum.records })),
  }
}

/** 1, 2 or 5 and some zeros, not below a width. */
function niceStep(width: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(width, 0.1)))
  return [1, 2, 5, 10].map((one) => one * power).find((one) => one >= width) ?? width
}
