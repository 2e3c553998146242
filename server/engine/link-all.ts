import { chooseLink, linkEnds, matchForm, type LinkBy, type LinkChoice } from '../../core/linking/link-by'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { isLinkable, type RecordSnapshot } from '../../core/records/record'
import { STEPS } from '../../core/rules/steps'
import { RefusedError, type Workspace } from './workspace'

/** Links made in one commit, at the most. */
const BATCH = 500
/** So many lines of each kind are shown. */
const SHOWN = 200

export interface LinkOrder extends LinkBy {
  /** The kind of record that is gone through. */
  readonly object: ObjectKind
}

interface Named {
  readonly id: number
  readonly name: string
}

export interface LinkPlan {
  readonly total: number
  readonly counts: { readonly [K in LinkChoice['is']]: number }
  /** How many links would be made. */
  readonly links: number
  readonly sample: readonly { readonly record: Named; readonly to: readonly Named[]; readonly form: string }[]
  /** Those for which several match, with what each would be. */
  readonly doubtful: readonly { readonly record: Named; readonly form: string; readonly among: readonly Named[] }[]
  /** What was left out or matched nothing, the commonest first. */
  readonly unmatched: readonly { readonly form: string; readonly leftOut: boolean; readonly count: number }[]
}

const named = (record: RecordSnapshot): Named => ({ id: record.id, name: String(record.values.name ?? '') })

/** Refuses an order that could link nothing, with the word that is wrong. */
export function checkOrder(workspace: Workspace, { object, ...params }: LinkOrder): void {
  const problems = STEPS.linkMatch.check(params, { catalogue: workspace.catalogue(), object })
  if (problems.length > 0) throw new RefusedError(problems.map(({ param, problem }) => ({ path: param, problem })))
}

/** What each record of a kind is to be linked to; the other kind is read once for all of them. */
function* choices(
  workspace: Workspace,
  by: LinkOrder,
): Generator<{ readonly record: RecordSnapshot; readonly choice: LinkChoice }> {
  const catalogue = workspace.catalogue()
  const { records, links } = workspace.store
  const their = catalogue.field(by.to, by.theirField)
  const byForm = new Map<string, RecordSnapshot[]>()
  if (their) {
    for (const record of records.scan(by.to, ['name', by.theirField])) {
      const form = matchForm(record.values[by.theirField] ?? null, their, by.part, catalogue)
      if (form !== null) byForm.set(form, [...(byForm.get(form) ?? []), record])
    }
  }
  for (const record of [...records.scan(by.object, ['name', by.ownField])]) {
    const choice = chooseLink(by, record, {
      catalogue,
      alike: (form) => byForm.get(form) ?? [],
      linkedTo: () => links.linked(record, by.to).map((one) => one.id),
      taken: (other) => !isLinkable(record, other) && links.linked(other, by.object).length > 0,
    })
    yield { record, choice }
  }
}

/** What linking all records of a kind would do. Reads only. */
export function planLinks(workspace: Workspace, by: LinkOrder): LinkPlan {
  const counts = { link: 0, linked: 0, empty: 0, leftOut: 0, none: 0, several: 0 }
  const sample: LinkPlan['sample'][number][] = []
  const doubtful: LinkPlan['doubtful'][number][] = []
  const unmatched = new Map<string, { leftOut: boolean; count: number }>()
  const own = workspace.catalogue().field(by.object, by.ownField)
  let [total, made] = [0, 0]
  for (const { record, choice } of choices(workspace, by)) {
    total++
    counts[choice.is]++
    if (choice.is === 'link') {
      made += choice.to.length
      if (sample.length < SHOWN)
        sample.push({
          record: named(record),
          to: choice.to.map(named),
          form: (own && matchForm(record.values[by.ownField] ?? null, own, by.part, workspace.catalogue())) ?? '',
        })
    } else if (choice.is === 'several' && doubtful.length < SHOWN)
      doubtful.push({ record: named(record), form: choice.form, among: choice.among.map(named) })
    else if (choice.is === 'leftOut' || choice.is === 'none')
      unmatched.set(choice.form, {
        leftOut: choice.is === 'leftOut',
        count: (unmatched.get(choice.form)?.count ?? 0) + 1,
      })
  }
  return {
    total,
    counts,
    links: made,
    sample,
    doubtful,
    unmatched: [...unmatched]
      .map(([form, one]) => ({ form, ...one }))
      .sort((a, b) => b.count - a.count || (a.form < b.form ? -1 : 1))
      .slice(0, SHOWN),
  }
}

/** Makes the links, in commits of their own so that nobody waits long. A second time there is nothing left to do. */
export function makeLinks(
  workspace: Workspace,
  { by, personId, key = null }: { readonly by: LinkOrder; readonly personId: string; readonly key?: string | null },
): { readonly made: number } {
  const wanted: { readonly from: RecordRef; readonly to: RecordRef }[] = []
  for (const { record, choice } of choices(workspace, by)) {
    if (choice.is === 'link')
      for (const other of choice.to)
        wanted.push(linkEnds({ object: record.object, id: record.id }, { object: other.object, id: other.id }))
  }
  let made = 0
  for (let at = 0; at < wanted.length; at += BATCH) {
    const batch = wanted.slice(at, at + BATCH)
    const refs = new Map<string, RecordRef>()
    workspace.db.inTurn(() =>
      workspace.db.atomically(() => {
        for (const { from, to } of batch) {
          // Somebody may have linked it meanwhile.
          if (workspace.store.links.linked(from, to.object).length > 0 && by.several !== 'all') continue
          if (!workspace.world.link(from, to, { by: 'person', personId, ...(key === null ? {} : { key }) })) continue
          made++
          for (const ref of [from, to]) refs.set(`${ref.object}:${ref.id}`, ref)
        }
      }),
    )
    if (refs.size > 0) workspace.live.tell({ about: 'records', refs: [...refs.values()] })
  }
  return { made }
}
