import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { seesRecord, scopeOf } from '../../core/access/scope'
import { SeenWorld } from '../../core/access/seen-world'
import { compileGroup } from '../../core/conditions/compile'
import { EMPTY_GROUP, type Group } from '../../core/conditions/document'
import { OBJECTS, type ObjectKind, type RecordRef } from '../../core/records/kinds'
import { condition } from '../../core/testing/rules'
import { makeDerived, workSomeDerived } from '../engine/derived'
import { card } from '../engine/derived.setting'
import { deleteRecord } from '../engine/going'
import { fittingAfter, listPage, matchingRecords, recordsAfter } from '../engine/record-list'
import { makeCard } from '../engine/scorecards'
import type { Workspace } from '../engine/workspace'
import { everyType, fillWith, groupOn, linkUp, type Asked } from '../testing/random-questions'
import { recordPage } from './record'
import { segmentCounts } from './segments'
import { fieldPast } from './why'

/** `SKY_LEVER_CASES=10000 npx vitest run server/views/owner-questions` asks so many questions. */
const CASES = Number(process.env.SKY_LEVER_CASES ?? 120)
const KINDS = OBJECTS
const all = (...items: Group['items']): Group => ({ kind: 'group', id: 'c0', mode: 'all', items })
const linked = (object: ObjectKind, ...items: Group['items']): Group =>
  all({ kind: 'linked', id: 'l', object, how: 'any', count: 1, group: all(...items) })

const scopeFor = (workspace: Workspace, personId: string) => {
  const person = workspace.catalogue().person(personId)
  if (!person) throw new Error(personId)
  return scopeOf(person, workspace.catalogue()) ?? new Set<string>()
}

/** Records of two teams linked any which way, with values that are worked out from linked ones. */
function setting() {
  const { workspace, fields } = everyType()
  const deals = fillWith(workspace, fields, 40)
  linkUp(workspace, deals)
  const owners = ['rosa', 'jude', null, 'piet', 'jude']
  deals.forEach(({ id }, i) =>
    workspace.change({ object: 'deal', id }, { owner: owners[i % 5] ?? null, amount: i * 7 }, 'ines'),
  )
  const rollUp = { by: 'rollUp', over: 'deal', order: null, down: false, where: all() } as const
  const make = (object: ObjectKind, label: string, made: Parameters<typeof makeDerived>[1]['made'], type = 'number') =>
    makeDerived(workspace, { object, label, description: '', type: type as 'number', made }, 'ines')
  make('company', 'Deals', { ...rollUp, what: 'count', field: null })
  make('company', 'Worth', { ...rollUp, what: 'sum', field: 'amount' }, 'currency')
  make('company', 'Twice', { by: 'formula', text: 'deals * 2' })
  make('contact', 'Largest', { ...rollUp, what: 'most', field: 'amount' }, 'currency')
  make('deal', 'Beside', { by: 'formula', text: 'count(contacts)' })
  make('deal', 'Of all', { by: 'formula', text: 'sum(companies.deals)' })
  makeCard(
    workspace,
    'contact',
    card({
      id: 'l1',
      points: 30,
      most: null,
      for: { what: 'being', where: linked('deal', condition('amount', 'moreThan', { value: 50 })) },
    }),
    'ines',
  )
  const { segments } = workspace.store
  const segment = (object: ObjectKind, name: string, filter: Group) =>
    segments.add({ object, name, filter, columns: [], sort: '', down: false }, 'ines', 1)
  const large = segment('company', 'With a large deal', linked('deal', condition('amount', 'moreThan', { value: 100 })))
  const busy = segment('company', 'Busy', all(condition('deals', 'moreThan', { value: 2 })))
  const known = segment('deal', 'Of a known one', linked('company', condition('name', 'contains', { value: '1' })))
  workspace.catalogueChanged()
  while (workSomeDerived(workspace, () => false)) {
    /* Until all are worked out. */
  }
  const catalogue = workspace.catalogue()
  const asked: Asked = {
    catalogue,
    segments: { company: [large, busy], deal: [known] },
    fields: {
      deal: [...fields, ...['amount', 'owner', 'beside', 'ofAll'].map((key) => catalogue.field('deal', key)!)],
      contact: catalogue.fields('contact'),
      company: catalogue.fields('company'),
      appointment: catalogue.fields('appointment'),
    },
  }
  return { workspace, asked }
}

const records = (workspace: Workspace, object: ObjectKind) => [...workspace.store.records.from(object, 0, null)]

/** Changes records that somebody does not see, in every way there is. */
function stirHidden(workspace: Workspace, personId: string, n: number): void {
  const scope = scopeFor(workspace, personId)
  const of = (object: ObjectKind) => records(workspace, object).filter(({ values }) => !seesRecord(scope, values))
  for (const object of KINDS) {
    const hidden = of(object)
    const pick = (i: number) => hidden[(n * 7 + i * 3) % hidden.length]
    const [one, two, gone] = [pick(0), pick(1), pick(2)]
    if (one) workspace.change({ object, id: one.id }, { name: `other ${n}` }, 'ines')
    if (two && object === 'deal') workspace.change({ object, id: two.id }, { amount: 1000 + n }, 'ines')
    // With the main one gone another link is the main one: that is a change of what they do see.
    const isMain =
      gone &&
      workspace.store.links
        .of({ object, id: gone.id })
        .some(({ from, main }) => main && seesRecord(scope, workspace.store.records.read(from)?.values ?? {}))
    if (gone && !isMain && hidden.length > 4) deleteRecord(workspace, { object, id: gone.id }, 'ines')
  }
  const stranger = personId === 'rosa' ? 'jude' : 'rosa'
  const seen = (object: ObjectKind): RecordRef[] =>
    records(workspace, object)
      .filter(({ values }) => seesRecord(scope, values))
      .map(({ id }) => ({ object, id }))
  const companies = seen('company')
  const contacts = seen('contact')
  const links = [companies[n % companies.length], contacts[n % contacts.length]].flatMap((ref) => (ref ? [ref] : []))
  workspace.create('deal', { name: `new ${n}`, stage: 'hp-sized', owner: stranger, amount: 5000 }, links, 'ines')
  while (workSomeDerived(workspace, () => false)) {
    /* Until all are worked out. */
  }
}

interface Question {
  readonly object: (typeof KINDS)[number]
  readonly group: Group
  readonly sort: string
  readonly down: boolean
}

function answers(workspace: Workspace, personId: string, { object, group: filter, sort, down }: Question): unknown {
  const scope = scopeFor(workspace, personId)
  const query = { object, scope, filter, words: '' }
  const page = listPage(workspace, { ...query, sort, down, offset: 0, limit: 100 })
  return JSON.parse(
    JSON.stringify({
      page,
      after: recordsAfter(workspace, { ...query, after: 0, limit: 100 }),
      bulk: matchingRecords(workspace, query, 100).map(({ id }) => id),
      jobs: fittingAfter(workspace, query, 0, 100),
    }),
  )
}

/** Everything that a page of a record tells. */
function pages(workspace: Workspace, personId: string): unknown {
  const scope = scopeFor(workspace, personId)
  return JSON.parse(
    JSON.stringify(
      KINDS.map((object) => [
        segmentCounts(workspace, object, scope),
        records(workspace, object)
          .filter(({ values }) => seesRecord(scope, values))
          .map(({ id }) => ({ object, id }))
          .map((ref) => [recordPage(workspace, ref, scope), fieldPast(workspace, ref, 'worth', scope)]),
      ]),
    ),
  )
}

describe('what an owner is answered', () => {
  it('does not change when records that they do not see do', () => {
    const { workspace, asked } = setting()
    const question = fc.constantFrom(...KINDS).chain((object) =>
      fc.record({
        object: fc.constant(object),
        group: groupOn(asked, object, 2),
        sort: fc.constantFrom(...(asked.fields[object] ?? []).map(({ key }) => key), 'name', ''),
        down: fc.boolean(),
      }),
    )
    const perRound = 30
    let told = 0
    for (let round = 0; round < Math.ceil(CASES / perRound); round++) {
      const personId = round % 2 ? 'rosa' : 'jude'
      const some = fc.sample(question, { seed: round, numRuns: perRound })
      const before = some.map((one) => answers(workspace, personId, one))
      const page = pages(workspace, personId)
      stirHidden(workspace, personId, round)
      some.forEach((one, i) => {
        expect(answers(workspace, personId, one), JSON.stringify(one)).toEqual(before[i])
        told += (before[i] as { bulk: unknown[] }).bulk.length
      })
      expect(pages(workspace, personId)).toEqual(page)
    }
    expect(told).toBeGreaterThan(CASES)
  })

  it('is the same from the database and record by record', () => {
    const { workspace, asked } = setting()
    const catalogue = workspace.catalogue()
    const moment = workspace.moment()
    let some = 0
    fc.assert(
      fc.property(
        fc.constantFrom(...KINDS).chain((object) => groupOn(asked, object, 2).map((group) => ({ object, group }))),
        fc.constantFrom('rosa', 'jude'),
        ({ object, group }, personId) => {
          const scope = scopeFor(workspace, personId)
          const seen = new SeenWorld(workspace.world, scope, catalogue, moment)
          const plain = compileGroup(group, object, catalogue)
          const expected = records(workspace, object)
            .filter((record) => seesRecord(scope, record.values) && plain.test(seen.subject(record), moment))
            .map(({ id }) => id)
          some += expected.length
          const query = { object, scope, filter: group, words: '' }
          expect(fittingAfter(workspace, query, 0, 1000)).toEqual(expected)
          expect(matchingRecords(workspace, query, 1000).map(({ id }) => id)).toEqual(expected)
          const page = listPage(workspace, { ...query, sort: '', down: false, offset: 0, limit: 500 })
          expect(page.rows.map(({ id }) => id)).toEqual(expected)
        },
      ),
      { seed: 3, numRuns: CASES },
    )
    expect(some).toBeGreaterThan(CASES)
  })

  it('is worked out from what they see, and nobody else is told less', () => {
    const { workspace } = setting()
    const company = workspace.create('company', { name: 'Shared', owner: 'rosa' }, [], 'ines').ref
    for (const [owner, amount] of [
      ['rosa', 10],
      ['jude', 200],
    ] as const)
      workspace.create('deal', { name: owner, stage: 'hp-sized', owner, amount }, [company], 'ines')
    const of = (personId: string | null) => {
      const scope = personId === null ? null : scopeFor(workspace, personId)
      const { values } = recordPage(workspace, company, scope)!
      const matched = listPage(workspace, {
        object: 'company',
        scope,
        filter: all(condition('worth', 'moreThan', { value: 100 }), condition('name', 'is', { value: 'Shared' })),
        words: '',
        sort: 'worth',
        down: true,
        offset: 0,
        limit: 1,
      }).matched
      return [values.deals, values.worth, values.twice, matched]
    }
    expect(of(null)).toEqual([2, 210, 4, 1])
    expect(of('rosa')).toEqual([1, 10, 2, 0])
    expect(fieldPast(workspace, company, 'worth', scopeFor(workspace, 'rosa'))).toMatchObject({ changes: [] })
    expect(fieldPast(workspace, company, 'worth', null)!.changes.length).toBeGreaterThan(0)
  })

  it('says nothing of what is deleted that they did not see', () => {
    const { workspace } = setting()
    const company = workspace.create('company', { name: 'Shared', owner: 'rosa' }, [], 'ines').ref
    const secret = workspace.create('deal', { name: 'Secret', stage: 'hp-sized', owner: 'jude' }, [], 'ines').ref
    workspace.link(secret, company, '', true, 'ines')
    const told = () => JSON.stringify(recordPage(workspace, company, scopeFor(workspace, 'rosa')))
    expect(told()).not.toContain('Secret')
    deleteRecord(workspace, secret, 'ines')
    expect(told()).not.toContain('Secret')
    expect(JSON.stringify(recordPage(workspace, company))).toContain('Secret')
    const found = listPage(workspace, {
      object: 'deal',
      scope: scopeFor(workspace, 'rosa'),
      filter: EMPTY_GROUP,
      words: 'secret',
      sort: 'name',
      down: false,
      offset: 0,
      limit: 5,
    })
    expect(found.rows).toEqual([])
  })
})
