import { describe, expect, it } from 'vitest'
import { EMPTY_GROUP } from '../../core/conditions/document'
import { larkmoor } from '../testing/workspace'
import { board } from './board'
import { daySheet } from './day-sheet'
import { listPage } from '../engine/record-list'
import { scopeOf, sees } from '../../core/access/scope'
import { catalogue } from '../../core/testing/setting'

const scope = (id: string) => scopeOf(catalogue.person(id)!, catalogue)

describe('whose records a person sees', () => {
  it('specialists and viewers see all', () => expect([scope('ines'), scope('maren')]).toEqual([null, null]))

  it('an owner sees the team’s and what nobody owns', () => {
    expect([...scope('rosa')!].sort()).toEqual(['brisa', 'piet', 'rosa', 'tomasz'])
    expect([sees(scope('rosa'), 'piet'), sees(scope('rosa'), 'jude'), sees(scope('rosa'), null)]).toEqual([
      true,
      false,
      true,
    ])
  })

  it('an owner without a team sees only their own', () => {
    const alone = { ...catalogue.person('rosa')!, team: '' }
    expect([...scopeOf(alone, catalogue)!]).toEqual(['rosa'])
  })

  it('tables, boards and day sheets hold nothing else', () => {
    const { workspace } = larkmoor()
    for (const owner of ['rosa', 'piet', 'jude', null])
      workspace.create('deal', { name: `of ${owner}`, stage: 'hp-sized', owner, amount: 10 }, [], 'ines')
    const page = listPage(workspace, {
      object: 'deal',
      scope: scope('rosa'),
      filter: EMPTY_GROUP,
      words: '',
      sort: 'name',
      down: false,
      offset: 0,
      limit: 10,
    })
    expect([page.total, page.rows.map((row) => row.values.name)]).toEqual([3, ['of null', 'of piet', 'of rosa']])
    const sized = board(workspace, 'hp', null, scope('jude')).find((stage) => stage.stage.id === 'hp-sized')
    expect([sized?.count, sized?.sums]).toEqual([2, [{ currency: 'EUR', sum: 20 }]])
    expect(daySheet(workspace, 'rosa', scope('rosa')).counts.every((one) => sees(scope('rosa'), one.personId))).toBe(
      true,
    )
  })
})
