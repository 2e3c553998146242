import { describe, expect, it } from 'vitest'
import { larkmoor, NOW_MS } from '../testing/workspace'
import { IDLE_MS, LONGEST_MS } from './sessions'

const DAY_MS = 86_400_000

describe('sessions', () => {
  it('are known by what the browser holds, which is kept nowhere', () => {
    const { workspace } = larkmoor()
    const { sessions } = workspace.store
    const secret = sessions.begin('rosa', 'a browser', NOW_MS)
    expect(secret).toMatch(/^[\w-]{43}$/)
    expect(sessions.of(secret, NOW_MS)).toMatchObject({ personId: 'rosa', note: false })
    expect(sessions.of('x'.repeat(43), NOW_MS)).toBeNull()
    expect(JSON.stringify(workspace.db.sqlite.prepare('SELECT * FROM sessions').all())).not.toContain(secret)
  })

  it('end when somebody ends them, one or all', () => {
    const { workspace } = larkmoor()
    const { sessions } = workspace.store
    const [one, two, other] = ['rosa', 'rosa', 'jude'].map((id) => sessions.begin(id, id, NOW_MS)) as [
      string,
      string,
      string,
    ]
    const [first, second] = [sessions.of(one, NOW_MS)?.id ?? 0, sessions.of(two, NOW_MS)?.id ?? 0]
    expect(sessions.end('jude', first)).toBe(false)
    expect(sessions.end('rosa', first)).toBe(true)
    expect([sessions.of(one, NOW_MS), sessions.goesOn(first, NOW_MS)]).toEqual([null, false])
    const third = sessions.begin('rosa', 'third', NOW_MS)
    sessions.endAll('rosa', second)
    expect([sessions.of(two, NOW_MS)?.id, sessions.of(third, NOW_MS)]).toEqual([second, null])
    sessions.endAll('rosa')
    expect([sessions.of(two, NOW_MS), sessions.of(other, NOW_MS)?.personId]).toEqual([null, 'jude'])
  })

  it('end when nobody uses them, and after some time in any case', () => {
    const { workspace } = larkmoor()
    const { sessions } = workspace.store
    const idle = sessions.begin('rosa', 'idle', NOW_MS)
    expect(sessions.of(idle, NOW_MS + IDLE_MS)).not.toBeNull()
    expect(sessions.of(idle, NOW_MS + IDLE_MS + 1)).toBeNull()
    const used = sessions.begin('rosa', 'used', NOW_MS)
    const { id = 0 } = sessions.of(used, NOW_MS) ?? {}
    for (let day = 1; day <= 30; day++) {
      const found = sessions.of(used, NOW_MS + day * DAY_MS)
      expect(found).toMatchObject({ note: true })
      sessions.seen(id, NOW_MS + day * DAY_MS)
    }
    expect(sessions.of(used, NOW_MS + LONGEST_MS + 1)).toBeNull()
    expect(sessions.goesOn(id, NOW_MS + LONGEST_MS + 1)).toBe(false)
    expect(sessions.list('rosa', NOW_MS + LONGEST_MS).map(({ agent }) => agent)).toEqual(['used'])
    // What is over is cleared away by the next that begins.
    sessions.begin('jude', 'later', NOW_MS + LONGEST_MS + 1)
    expect(workspace.db.sqlite.prepare('SELECT agent FROM sessions').pluck().all()).toEqual(['later'])
  })
})
