import type { Catalogue } from '../fields/catalogue'
import { derivationsOf } from '../derived/derivations'
import { sameRef, type ObjectKind, type RecordRef } from '../records/kinds'
import {
  isLinkable,
  type Cause,
  type ChainPlace,
  type ChangeEvent,
  type EventKind,
  type FieldChange,
  type RecordSnapshot,
} from '../records/record'
import type { LinkedRecord, LinkEnd } from '../records/subject'
import { linkChange, type LinkMove } from '../signals/link'
import type { Base } from './base'
import { UndoLog } from './undo-log'

export const keyOf = ({ object, id }: RecordRef): string => `${object}:${id}`

export const SOMEBODY: Cause = { by: 'person', personId: '' }

interface Linking {
  readonly from: RecordRef
  readonly to: RecordRef
  readonly main: boolean
  readonly role: string
}

/** Links over those that lie below. */
export abstract class OverlayLinks extends UndoLog {
  readonly events: ChangeEvent[] = []
  protected readonly linksAdded: Linking[] = []
  protected readonly linksGone = new Set<string>()

  constructor(
    readonly base: Base,
    public atMs: number,
  ) {
    super()
  }

  nowMs(): number {
    return this.atMs
  }
  catalogue(): Catalogue {
    return this.base.catalogue
  }

  abstract read(ref: RecordRef): RecordSnapshot | null

  protected abstract log(
    kind: EventKind,
    ref: RecordRef,
    changes: readonly FieldChange[],
    cause: Cause,
    chain: ChainPlace,
  ): ChangeEvent

  protected linksOf(ref: RecordRef, object: ObjectKind): readonly LinkEnd[] {
    const below = this.base.linked(ref, object).filter(({ id }) => !this.linksGone.has(`${keyOf(ref)} ${object}:${id}`))
    const own = this.linksAdded.flatMap(({ from, to, main, role }) =>
      sameRef(from, ref) && to.object === object
        ? [{ id: to.id, main, role }]
        : sameRef(to, ref) && from.object === object
          ? [{ id: from.id, main: false, role }]
          : [],
    )
    return own.length === 0 ? below : [...below, ...own].sort((a, b) => Number(b.main) - Number(a.main))
  }

  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] {
    return this.linksOf(ref, object).flatMap(({ id, main, role }) => {
      const record = this.read({ object, id })
      return record ? [{ record, main, role }] : []
    })
  }

  related(ref: RecordRef, object: ObjectKind): RecordSnapshot | null {
    const main = this.linksOf(ref, object).find((link) => link.main)
    return main ? this.read({ object, id: main.id }) : null
  }

  link(from: RecordRef, to: RecordRef, cause: Cause = SOMEBODY): boolean {
    const added = this.addLink(from, to)
    if (added) this.linkMoved(from, to, 'added', cause)
    return added
  }

  protected addLink(from: RecordRef, to: RecordRef): boolean {
    if (!isLinkable(from, to) || this.linksOf(from, to.object).some(({ id }) => id === to.id)) return false
    this.push(this.linksAdded, { from, to, main: !this.linksOf(from, to.object).some((link) => link.main), role: '' })
    return true
  }

  /** Lets records know that links of theirs came or went, where something hangs on those. */
  protected linksChanged(refs: readonly RecordRef[], cause: Cause, moved: readonly FieldChange[] = []): void {
    const { byLinks } = derivationsOf(this.base.catalogue)
    const chain = cause.by === 'rule' ? this.chainOf(cause.runId) : null
    for (const ref of refs)
      if (byLinks.has(ref.object) || ref.object === 'deal' || (moved.length > 0 && this.hearsLinks(ref.object)))
        this.log('linked', ref, moved, cause, chain ?? this.newChain())
  }

  private linkMoved(from: RecordRef, to: RecordRef, move: LinkMove, cause: Cause): void {
    this.linksChanged([from], cause, [linkChange(to.object, to.id, move)])
    this.linksChanged([to], cause, [linkChange(from.object, from.id, move)])
  }

  /** Whether a rule listens to links of such records. */
  protected abstract hearsLinks(object: ObjectKind): boolean

  /** Where what a run does stands in its chain; `null` for a run that is not here. */
  protected abstract chainOf(runId: number): ChainPlace | null

  newChain(): ChainPlace {
    return { chainId: `own-${this.events.length}`, depth: 0 }
  }

  unlink(from: RecordRef, to: RecordRef, cause: Cause = SOMEBODY): string | null {
    if (!this.linksOf(from, to.object).some(({ id }) => id === to.id)) return null
    const at = this.linksAdded.findIndex((one) => sameRef(one.from, from) && sameRef(one.to, to))
    const [added] = at < 0 ? [] : this.linksAdded.splice(at, 1)
    if (added)
      this.undoable(() => {
        this.linksAdded.push(added)
      })
    else {
      for (const key of [`${keyOf(from)} ${keyOf(to)}`, `${keyOf(to)} ${keyOf(from)}`]) {
        this.linksGone.add(key)
        this.undoable(() => {
          this.linksGone.delete(key)
        })
      }
    }
    this.linkMoved(from, to, 'removed', cause)
    return ''
  }
}
