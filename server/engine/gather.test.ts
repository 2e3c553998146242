import { expect, it } from 'vitest'
import { Gather } from './gather'
import type { LiveMessage } from './live'

const ref = (id: number) => ({ object: 'deal' as const, id })
const run = (runId: number): LiveMessage => ({
  about: 'run',
  runId,
  ruleId: 1,
  ruleName: 'R',
  ref: ref(runId),
  recordName: 'x',
  state: 'done',
  text: 'did',
})

it('gathers many messages into few, names each record and person once, and forgets what it told', () => {
  const gather = new Gather()
  expect(gather.take()).toEqual([])
  for (let i = 0; i < 50; i++) {
    gather.add({ about: 'records', refs: [ref(i % 7), { object: 'company', id: 1 }] })
    gather.add(run(i))
    gather.add({ about: 'tasks', people: ['rosa', i % 2 ? 'jude' : 'piet'] })
    gather.add({ about: 'imports', id: 4, progress: { row: i, total: 50, perSecond: 1, leftSeconds: 1 } })
  }
  gather.add({ about: 'rules' })
  const told = gather.take()
  expect(told.map((message) => message.about)).toEqual(['rules', 'records', 'tasks', 'imports'])
  expect(told[1]).toMatchObject({
    refs: [ref(0), { object: 'company', id: 1 }, ref(1), ref(2), ref(3), ref(4), ref(5), ref(6)],
  })
  expect(told[2]).toEqual({ about: 'tasks', people: ['rosa', 'piet', 'jude'] })
  expect(told[3]).toMatchObject({ id: 4, progress: { row: 49 } })
  expect(gather.take()).toEqual([])
})

it('tells of a few runs one by one', () => {
  const gather = new Gather()
  for (const id of [1, 2, 3]) gather.add(run(id))
  expect(gather.take()).toEqual([run(1), run(2), run(3)])
})

it('the end of an import is the last that is told of it', () => {
  const gather = new Gather()
  gather.add({ about: 'imports', id: 4, progress: { row: 49, total: 50, perSecond: 1, leftSeconds: 0 } })
  gather.add({ about: 'imports', id: 4 })
  expect(gather.take()).toEqual([{ about: 'imports', id: 4 }])
})

it('passes on everything that bulk work can tell of, once', () => {
  const gather = new Gather()
  const told = [
    { about: 'clock' },
    { about: 'ahead' },
    { about: 'ahead' },
    { about: 'notices', people: ['rosa'] },
    { about: 'notices', people: ['rosa', 'jude'] },
    { about: 'segments' },
    { about: 'jobs', ruleId: 1, id: 4, state: 'running', done: 1, total: 9 },
    { about: 'jobs', ruleId: 1, id: 4, state: 'running', done: 5, total: 9 },
  ] as const
  for (const message of told) gather.add(message)
  expect(gather.take()).toEqual([
    { about: 'clock' },
    { about: 'ahead' },
    { about: 'segments' },
    { about: 'jobs', ruleId: 1, id: 4, state: 'running', done: 5, total: 9 },
    { about: 'notices', people: ['rosa', 'jude'] },
  ])
  expect(gather.take()).toEqual([])
})
