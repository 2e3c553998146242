import type { RatesFrom } from '../../core/money/rates'
import { isForeign } from '../../core/money/worth'
import { codesInUse } from '../engine/rates'
import type { Workspace } from '../engine/workspace'

const DAYS = 30

export interface RatesView {
  readonly own: string
  readonly from: RatesFrom | null
  readonly currencies: readonly {
    readonly code: string
    /** How many amounts of records are in it. */
    readonly amounts: number
    /** By the newest rate, units of it for one of the own; `null` where there is none. */
    readonly perOwn: number | null
    readonly since: string | null
    readonly first: string | null
  }[]
  /** The newest first. */
  readonly days: readonly { readonly day: string; readonly rates: { readonly [code: string]: number } }[]
  /** The last day of the page, to ask for those before it; `null` at the end. */
  readonly next: string | null
}

/** What currencies are worth, by day, and which of them records are in. */
export function ratesView(workspace: Workspace, before: string | null): RatesView {
  const { store } = workspace
  const catalogue = workspace.catalogue()
  const spans = new Map(store.rates.spans().map((span) => [span.code, span]))
  const amounts = new Map<string, number>()
  for (const field of catalogue.data.fields.filter(isForeign)) {
    const code = catalogue.field(field.object, field.currencyKey ?? '')
    if (!code) continue
    for (const { value, count } of store.records.commonest(code, 500)) {
      const name = String(value).toUpperCase()
      amounts.set(name, Math.max(amounts.get(name) ?? 0, count))
    }
  }
  const page = store.rates.page(before, DAYS)
  return {
    own: catalogue.workspace.currency,
    from: store.rates.from(),
    currencies: codesInUse(workspace).map((code) => ({
      code,
      amounts: amounts.get(code) ?? 0,
      perOwn: catalogue.rates.on(code),
      since: spans.get(code)?.to ?? null,
      first: spans.get(code)?.from ?? null,
    })),
    days: page.days.map((day) => ({
      day,
      rates: Object.fromEntries(
        page.rates.filter((rate) => rate.day === day).map(({ code, perOwn }) => [code, perOwn]),
      ),
    })),
    next: page.days.length === DAYS ? (page.days.at(-1) ?? null) : null,
  }
}
