import { describe, expect, it } from 'vitest'
import { EMPTY_GROUP } from '../../core/conditions/document'
import { all, condition } from '../../core/testing/rules'
import type { ObjectKind } from '../../core/records/kinds'
import { scopeOf } from '../../core/access/scope'
import { larkmoor } from '../testing/workspace'
import { board, LINES_MOST } from './board'
import { listPage, recordsAfter } from '../engine/record-list'

const NAMES = ['Éclair', 'eclair', 'Zebra', 'zébra 2', 'Ängel', 'angel', 'Łódź', 'lodz', '10', '9', 'Ölberg', 'olberg ']
/** Lets every record through, but has to be asked of each. */
const everybody = all(condition('name', 'isEmpty', {}, true, 'c1'))

function filled() {
  const { workspace } = larkmoor()
  const stages = workspace.catalogue().allStages()
  workspace.db.atomically(() => {
    NAMES.forEach((name, i) => {
      workspace.createBy(
        'deal',
        {
          name,
          stage: stages[(i * 5) % stages.length]?.id ?? 'hp-sized',
          owner: [null, 'rosa', 'jude', 'piet'][i % 4] ?? null,
          amount: i % 3 === 0 ? null : (i * 37) % 11,
          closeDate: i % 4 === 0 ? null : `2026-12-${10 + ((i * 7) % 15)}`,
          kind: [null, 'hire', 'service', 'purchase'][(i * 3) % 4] ?? null,
          reference: i % 2 ? null : `R${(i * 5) % 7}`,
          units: i % 2,
        },
        [],
        { by: 'person', personId: 'ines' },
      )
    })
  })
  return workspace
}

describe('a page of records', () => {
  it('is the same whether the database orders it or every record is looked at', () => {
    const workspace = filled()
    for (const scope of [null, scopeOf(workspace.catalogue().person('rosa')!, workspace.catalogue())]) {
      for (const sort of [
        ...workspace
          .catalogue()
          .fields('deal')
          .map((field) => field.key),
        'nothing',
      ]) {
        for (const down of [false, true]) {
          for (const offset of [0, 5]) {
            const query = { object: 'deal' as ObjectKind, scope, words: '', sort, down, offset, limit: 4 }
            const [plain, asked] = [EMPTY_GROUP, everybody].map((filter) => listPage(workspace, { ...query, filter }))
            expect(plain, `${sort} ${down ? 'down' : 'up'} from ${offset}`).toEqual(asked)
          }
        }
      }
    }
  })

  it('keeps the compared form of names as they change', () => {
    const workspace = filled()
    const first = () =>
      listPage(workspace, {
        object: 'deal',
        scope: null,
        filter: EMPTY_GROUP,
        words: '',
        sort: 'name',
        down: true,
        offset: 0,
        limit: 1,
      }).rows[0]
    const top = first()
    expect(top?.values.name).toBe('Łódź')
    workspace.change({ object: 'deal', id: top?.id ?? 0 }, { name: 'aaa' }, 'ines')
    expect(first()?.values.name).toBe('zébra 2')
  })

  it('of a database from before there were compared forms is filled in at start', () => {
    const { workspace, reopen } = larkmoor()
    workspace.create('deal', { name: 'Édith', stage: 'hp-sized' }, [], 'ines')
    const field = workspace.catalogue().field('deal', 'name')
    workspace.db.sqlite.exec(`DROP INDEX deals_k_${field?.id}; ALTER TABLE deals DROP COLUMN k_${field?.id}`)
    workspace.close()
    const again = reopen()
    expect(again.db.sqlite.prepare(`SELECT k_${field?.id} AS key FROM deals`).get()).toEqual({ key: 'edith' })
  })
})

describe('a stage with more deals than fit', () => {
  it('shows those longest in it and the latest, so that a deal that was just moved is seen', () => {
    const { workspace, clock } = larkmoor()
    const start = clock.nowMs()
    for (let i = 0; i < LINES_MOST + 15; i++) {
      clock.set(start + i * 60_000)
      workspace.createBy('deal', { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa' }, [], {
        by: 'person',
        personId: 'ines',
      })
    }
    clock.set(start + 86_400_000)
    workspace.change({ object: 'deal', id: 3 }, { stage: 'hp-visit' }, 'rosa')
    workspace.change({ object: 'deal', id: 3 }, { stage: 'hp-sized' }, 'rosa')
    const sized = board(workspace, 'hp', null).find((stage) => stage.stage.id === 'hp-sized')
    expect([sized?.count, sized?.lines.length]).toEqual([LINES_MOST + 15, LINES_MOST])
    expect(sized?.lines.slice(0, 3).map((line) => line.id)).toEqual([1, 2, 4])
    expect(sized?.lines.at(-1)?.id).toBe(3)
    expect(sized?.lines.at(-2)?.id).toBe(LINES_MOST + 15)
  })
})

describe('records for programs', () => {
  it('come in the order of their ids, each once, whatever the size of a page, and only those in the scope', () => {
    const workspace = filled()
    const catalogue = workspace.catalogue()
    for (const scope of [null, scopeOf(catalogue.person('rosa')!, catalogue)]) {
      const whole = listPage(workspace, {
        object: 'deal',
        scope,
        filter: everybody,
        words: '',
        sort: 'nothing',
        down: false,
        offset: 0,
        limit: 100,
      }).rows.map((row) => row.id)
      for (const limit of [1, 3, 12, 100]) {
        const seen: number[] = []
        for (let after: number | null = 0; after !== null;) {
          const page: ReturnType<typeof recordsAfter> = recordsAfter(workspace, {
            object: 'deal',
            scope,
            filter: EMPTY_GROUP,
            words: '',
            after,
            limit,
          })
          expect(page.rows.length).toBeLessThanOrEqual(limit)
          seen.push(...page.rows.map((row) => row.id))
          after = page.next
        }
        expect(seen).toEqual(whole)
      }
    }
    const named = recordsAfter(workspace, {
      object: 'deal',
      scope: null,
      filter: all(condition('units', 'is', { value: 1 }, false, 'c1')),
      words: 'ECLAIR',
      after: 0,
      limit: 9,
    })
    expect([named.rows.map((row) => row.values.name), named.next]).toEqual([['eclair'], null])
  })
})
