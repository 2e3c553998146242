import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileGroup } from '../../core/conditions/compile'
import type { Ask, Group } from '../../core/conditions/document'
import { OPERATORS, operatorsFor } from '../../core/conditions/operators'
import type { ObjectKind } from '../../core/records/kinds'
import { everyType, fillWith, groupOn, linkUp, paramsOf, type Asked } from '../testing/random-questions'

/** `SKY_LEVER_CASES=10000 npx vitest run server/store/conditions` tries more of them. */
const CASES = Number(process.env.SKY_LEVER_CASES ?? 250)

describe('a condition as a predicate and as a query', () => {
  it('has every operator on every type it takes, with and without an index, empty values and negations included', () => {
    const { workspace, fields } = everyType()
    const all = fillWith(workspace, fields, 80)
    const catalogue = workspace.catalogue()
    const moment = workspace.moment()
    let compared = 0
    for (const field of [...fields, catalogue.field('deal', 'stage')!, catalogue.field('deal', 'pipeline')!]) {
      for (const op of operatorsFor(field.type)) {
        for (const [i, params] of fc.sample(paramsOf(op, field, catalogue), { numRuns: 12, seed: 3 }).entries()) {
          const group: Group = {
            kind: 'group',
            id: 'g',
            mode: 'all',
            items: [{ kind: 'condition', id: 'c', field: field.key, op, not: i % 2 === 1, params }],
          }
          const plain = compileGroup(group, 'deal', catalogue)
          const found = workspace.store.records
            .matching('deal', workspace.store.records.where(group, 'deal', catalogue, moment), 1000)
            .map((record) => record.id)
          expect(found, `${field.label} ${op} ${JSON.stringify(params)} ${i % 2}`).toEqual(
            all.filter((record) => plain.test(workspace.subject(record), moment)).map((record) => record.id),
          )
          compared += all.length
        }
      }
    }
    expect(compared).toBeGreaterThan(50_000)
    expect(Object.keys(OPERATORS)).toHaveLength(21)
  })

  it('agree on random groups, linked records two steps away included, in what matches, what each lets through, and what is just missed', () => {
    const { workspace, fields } = everyType()
    linkUp(workspace, fillWith(workspace, fields, 60))
    const { records, segments } = workspace.store
    const segment = (object: ObjectKind, name: string, ...items: Group['items']): number =>
      segments.add(
        {
          object,
          name,
          filter: { kind: 'group', id: 'c0', mode: 'all', items },
          columns: [],
          sort: '',
          down: false,
        },
        'ines',
        1,
      )
    const ask = (id: number, not = false): Ask => ({ kind: 'inSegment', id: `a${id}`, not, segment: id })
    const large = segment('deal', 'Large', {
      kind: 'condition',
      id: 'c1',
      field: 'amount',
      op: 'moreThan',
      not: false,
      params: { value: 40 },
    })
    const small = segment('deal', 'Small', ask(large, true))
    // One that asks about itself holds for nothing, by either way.
    const round = segment('deal', 'Round', ask(segments.all().length + 1))
    const busy = segment('company', 'Busy', { kind: 'formula', id: 'f', not: false, text: 'count(deals) > 1' })
    workspace.catalogueChanged()
    const catalogue = workspace.catalogue()
    const moment = workspace.moment()
    const asked: Asked = {
      catalogue,
      segments: { deal: [large, small, round, busy], company: [busy] },
      fields: {
        deal: [...fields, ...['stage', 'owner', 'createdAt'].map((key) => catalogue.field('deal', key)!)],
        contact: catalogue.fields('contact'),
        company: catalogue.fields('company'),
        appointment: catalogue.fields('appointment'),
      },
    }
    const everything = (object: ObjectKind) => [
      ...records.scan(
        object,
        catalogue.fields(object).map((field) => field.key),
      ),
    ]
    const all = {
      deal: everything('deal'),
      contact: everything('contact'),
      company: everything('company'),
      appointment: everything('appointment'),
    }
    let yes = 0
    fc.assert(
      fc.property(
        fc
          .constantFrom('deal' as const, 'deal' as const, 'contact' as const, 'company' as const)
          .chain((object) => groupOn(asked, object, 2).map((group) => ({ object, group }))),
        ({ object, group }) => {
          const plain = compileGroup(group, object, catalogue)
          const where = records.where(group, object, catalogue, moment)
          const subjects = new Map(all[object].map((record) => [record.id, workspace.subject(record)]))
          const subject = (record: { readonly id: number }) => subjects.get(record.id)!
          const matched = all[object].filter((record) => plain.test(subject(record), moment))
          if (matched.length > 0 && matched.length < all[object].length) yes++
          expect(records.matching(object, where, 1000).map((record) => record.id)).toEqual(
            matched.map((record) => record.id),
          )
          const missed = all[object].flatMap((record) => plain.onlyMiss(subject(record), moment) ?? [])
          const counts = records.survey(object, where, 1000)
          expect(counts.matching).toEqual(matched.map((record) => record.id))
          expect([counts.total, counts.matched, counts.near]).toEqual([
            all[object].length,
            matched.length,
            missed.length,
          ])
          plain.leaves.forEach(({ id }, i) => {
            expect(counts.alone.get(id)).toBe(
              all[object].filter((record) => plain.each(subject(record), moment)[i]).length,
            )
          })
          if (group.mode !== 'all') return
          const { nearest } = counts
          expect(nearest.map(({ missId }) => missId).sort()).toEqual([...missed].sort())
          for (const one of nearest) expect(plain.onlyMiss(subject(one), moment)).toBe(one.missId)
          // The nearest come first, by the same measure as a single record is measured by.
          const gaps = nearest.map(
            (one) => plain.explain(subject(one), moment).find((seen) => seen.id === one.missId)?.gap ?? Infinity,
          )
          for (const [i, gap] of gaps.slice(1).entries()) expect(gap).toBeGreaterThanOrEqual((gaps[i] ?? 0) - 1.05)
        },
      ),
      { seed: 12, numRuns: CASES },
    )
    expect(yes).toBeGreaterThan(CASES / 10)
  })
})
