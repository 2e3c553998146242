import { expect, it } from 'vitest'
import { active, all, condition, enters, task } from '#core/testing/rules'
import type { Group } from '#core/conditions/document'
import { isOwn } from './isOwn'

it('a condition is the rule’s own at any depth of its groups, and not behind a link', () => {
  const amount = (id: string) => condition('amount', 'moreThan', { value: 4 }, false, id)
  const inner: Group = { kind: 'group', id: 'g1', mode: 'any', items: [amount('c2')] }
  const linked = {
    kind: 'linked',
    id: 'l1',
    how: 'any',
    count: 1,
    object: 'company',
    group: { kind: 'group', id: 'g2', mode: 'all', items: [amount('c3')] },
  } as const
  const { document } = active(1, { when: [enters('hp-quoted')], then: [task('Call')] })
  const rule = { ...document, conditions: { ...all(), items: [amount('c1'), inner, linked] } }
  expect(['c1', 'c2', 'c3', 'none', undefined].map((id) => isOwn(rule, id))).toEqual([true, true, false, false, false])
})
