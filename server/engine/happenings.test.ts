import { describe, expect, it } from 'vitest'
import { larkmoor } from '../testing/workspace'
import { mergeRecords, restoreRecord } from './going'
import { readHappenings, tellHappenings } from './happenings'

describe('happenings', () => {
  it('are read from a file with its columns in any order, row by row', () => {
    const { workspace } = larkmoor()
    const { given, refused } = readHappenings(
      workspace,
      'Key;Kind;contact;About;At;email\nk1;visit;7;/prices;24.11.2026 09:00;\n;form;;Quote;;ada@x.example\n;dance;7;;;\n;visit;x7;;;\n;visit;;;;\n;visit;7;;yesterday;\n',
    )
    expect(given).toEqual([
      {
        row: 2,
        record: { object: 'contact', id: 7 },
        kind: 'visit',
        about: '/prices',
        atMs: Date.UTC(2026, 10, 24, 9),
        key: 'k1',
      },
      { row: 3, record: { email: 'ada@x.example' }, kind: 'form', about: 'Quote', atMs: null, key: null },
    ])
    expect(refused).toEqual([
      { row: 4, text: '“dance” is not one of visit, message, call, appointment, form, request.' },
      { row: 5, text: '“x7” is not a contact number.' },
      { row: 6, text: 'No record given.' },
      { row: 7, text: '“yesterday” is not a date and time.' },
    ])
    expect(readHappenings(workspace, 'a,b\n1,2\n').refused).toEqual([
      { row: 1, text: 'The file needs a column “kind” and one of “email”, “contact”, “company”, “deal”.' },
    ])
  })

  it('are kept once by their key, for records that are there, and not ahead of the clock', () => {
    const { workspace } = larkmoor()
    const nowMs = workspace.clock.nowMs()
    const ref = workspace.create('contact', { name: 'Ada', email: 'Ada@X.example' }, [], 'ines').ref
    const one = {
      record: { email: ' ADA@x.example ' },
      kind: 'visit',
      about: ' /prices ',
      atMs: nowMs - 1000,
      key: 'a',
    } as const
    expect(
      tellHappenings(workspace, [
        one,
        one,
        { ...one, key: null },
        { ...one, key: 'b', atMs: nowMs + 60_000 },
        { ...one, key: 'c', atMs: nowMs + 3_600_000 },
        { ...one, key: 'd', record: { object: 'deal', id: 99 } },
      ]),
    ).toEqual({
      kept: 3,
      known: 1,
      refused: [
        { row: 5, text: 'The time is in the future.' },
        { row: 6, text: 'Deal 99 does not exist.' },
      ],
    })
    // A sender's clock that runs ahead a little does not date anything into the future.
    expect(workspace.store.happenings.of(ref).map(({ about, atMs }) => [about, atMs])).toEqual([
      ['/prices', nowMs - 1000],
      ['/prices', nowMs - 1000],
      ['/prices', nowMs],
    ])
    expect(workspace.store.events.ofRecord(ref, 9).filter((event) => event.kind === 'happened')).toHaveLength(3)
  })

  it('go with a record that is merged, and back when it is taken back', () => {
    const { workspace } = larkmoor()
    const [a, b] = ['a', 'b'].map(
      (name) => workspace.create('contact', { name, email: `${name}@x.example` }, [], 'ines').ref,
    )
    if (!a || !b) throw new Error('two contacts')
    for (const ref of [a, b, b])
      tellHappenings(workspace, [{ record: ref, kind: 'call', about: '', atMs: null, key: null }])
    mergeRecords(workspace, a, b.id, [], 'ines')
    tellHappenings(workspace, [{ record: a, kind: 'form', about: 'since', atMs: null, key: null }])
    expect([a, b].map((ref) => workspace.store.happenings.of(ref).length)).toEqual([4, 0])
    restoreRecord(workspace, b, 'ines')
    expect([a, b].map((ref) => workspace.store.happenings.of(ref).map((one) => one.kind))).toEqual([
      ['call', 'form'],
      ['call', 'call'],
    ])
  })
})
