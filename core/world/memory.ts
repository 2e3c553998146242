import { UNKNOWN_ADDRESS, type AddressFacts } from '../messages/guards'
import type { Line } from '../messages/letter'
import { compileGroup } from '../conditions/compile'
import type { Group } from '../conditions/document'
import type { Catalogue } from '../fields/catalogue'
import { matchForm, type MatchPart } from '../linking/link-by'
import { sameRef, type ObjectKind, type RecordRef } from '../records/kinds'
import { NO_RECORD, type Link, type RecordSnapshot } from '../records/record'
import { subjectOf, type LinkedRecord, type LinkEnd } from '../records/subject'
import type { Moment } from '../conditions/moment'
import type { Base } from './base'

/** Records of a file as what lies below a rehearsal. Nothing ran on them before. */
export class Memory implements Base {
  private readonly byKey: ReadonlyMap<string, RecordSnapshot>

  constructor(
    readonly catalogue: Catalogue,
    private readonly records: readonly RecordSnapshot[] = [],
    private readonly links: readonly Link[] = [],
  ) {
    this.byKey = new Map([NO_RECORD, ...records].map((record) => [`${record.object}:${record.id}`, record]))
  }

  read({ object, id }: RecordRef): RecordSnapshot | null {
    return this.byKey.get(`${object}:${id}`) ?? null
  }

  linked(ref: RecordRef, object: ObjectKind): readonly LinkEnd[] {
    return this.links.flatMap(({ from, to, main, role }) =>
      sameRef(from, ref) && to.object === object
        ? [{ id: to.id, main, role }]
        : sameRef(to, ref) && from.object === object
          ? [{ id: from.id, main: false, role }]
          : [],
    )
  }

  private some(
    object: ObjectKind,
    test: (record: RecordSnapshot) => boolean,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.records
      .filter((record) => record.object === object && record.id > afterId && test(record))
      .sort((a, b) => a.id - b.id)
      .slice(0, limit)
  }

  least(object: ObjectKind, field: string, from: string | number): string | number | null {
    let best: string | number | null = null
    for (const { object: of, values } of this.records) {
      const value = of === object ? values[field] : null
      if (
        (typeof value === 'string' || typeof value === 'number') &&
        typeof value === typeof from &&
        value >= from &&
        (best === null || value < best)
      )
        best = value
    }
    return best
  }

  holding(
    object: ObjectKind,
    field: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    const wanted: ReadonlySet<unknown> = new Set(values)
    return this.some(object, (record) => wanted.has(record.values[field]), afterId, limit)
  }

  between(
    object: ObjectKind,
    field: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.some(
      object,
      ({ values }) => typeof values[field] === 'number' && values[field] >= from && values[field] <= to,
      afterId,
      limit,
    )
  }

  private readLinked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] {
    return this.linked(ref, object).flatMap(({ id, main, role }) => {
      const record = this.read({ object, id })
      return record ? [{ record, main, role }] : []
    })
  }

  matching(object: ObjectKind, group: Group, moment: Moment, afterId: number, limit: number): readonly number[] {
    const conditions = compileGroup(group, object, this.catalogue)
    return this.some(
      object,
      (record) =>
        conditions.test(
          subjectOf(record, { linked: (ref, of) => this.readLinked(ref, of), activities: () => [] }),
          moment,
        ),
      afterId,
      limit,
    ).map(({ id }) => id)
  }

  ids(object: ObjectKind, afterId: number, limit: number): readonly number[] {
    return this.behind(object, afterId, limit).map(({ id }) => id)
  }

  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    return this.some(object, () => true, afterId, limit)
  }

  alike(object: ObjectKind, key: string, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const field = this.catalogue.field(object, key)
    return field
      ? this.some(
          object,
          (record) => matchForm(record.values[key] ?? null, field, part, this.catalogue) === form,
          0,
          Infinity,
        )
      : []
  }

  setBy(): null {
    return null
  }
  activities(): readonly [] {
    return []
  }
  past(): readonly [] {
    return []
  }
  ran(): boolean {
    return false
  }
  lastRunAt(): null {
    return null
  }
  openTask(): null {
    return null
  }
  addressFacts(): AddressFacts {
    return UNKNOWN_ADDRESS
  }
  lineOf(): Line {
    return 'unknown'
  }
  firstSentTo(): null {
    return null
  }
  sentByStep(): readonly [] {
    return []
  }
  openTasks(): number {
    return 0
  }
  turn(): number {
    return 0
  }
  waiting(): readonly [] {
    return []
  }
}
