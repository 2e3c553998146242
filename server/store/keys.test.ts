import { describe, expect, it } from 'vitest'
import { larkmoor, NOW_MS } from '../testing/workspace'

const HOUR_MS = 3_600_000

describe('keys for the API', () => {
  it('are shown once, known again, and gone once revoked', () => {
    const { workspace } = larkmoor()
    const { keys } = workspace.store
    const key = keys.create('rosa', 'the warehouse', NOW_MS)
    expect(keys.of(key, NOW_MS)).toMatchObject({
      personId: 'rosa',
      name: 'the warehouse',
      readOnly: false,
      areas: null,
    })
    const [line] = keys.list('rosa')
    expect(line).toMatchObject({ name: 'the warehouse', start: key.slice(0, 9), lastUsedAt: null, expiresAt: null })
    expect(JSON.stringify(workspace.db.sqlite.prepare('SELECT * FROM api_tokens').all())).not.toContain(key)
    const id = line?.id ?? 0
    expect([keys.revoke(id, NOW_MS, 'jude'), keys.goesOn(id, NOW_MS)]).toEqual([false, true])
    expect([keys.revoke(id, NOW_MS, 'rosa'), keys.goesOn(id, NOW_MS)]).toEqual([true, false])
    expect([keys.of(key, NOW_MS), keys.list('rosa'), keys.of('slv_made-up', NOW_MS)]).toEqual([null, [], null])
  })

  it('note their last use to the hour', () => {
    const { workspace } = larkmoor()
    const { keys } = workspace.store
    const key = keys.create('rosa', 'x', NOW_MS)
    const used = (minutes: number) => {
      const found = keys.of(key, NOW_MS + minutes * 60_000)
      if (found?.note) keys.seen(found.id, NOW_MS + minutes * 60_000)
    }
    for (const minutes of [0, 30, 59, 61]) used(minutes)
    expect(keys.list('rosa')[0]?.lastUsedAt).toBe(NOW_MS + 61 * 60_000)
  })

  it('open what they are for until they expire', () => {
    const { workspace } = larkmoor()
    const { keys } = workspace.store
    const expiresAt = NOW_MS + HOUR_MS
    const key = keys.create('rosa', 'scanner', NOW_MS, { readOnly: true, areas: ['records', 'tasks'], expiresAt })
    const found = keys.of(key, NOW_MS)
    expect(found).toMatchObject({ readOnly: true, areas: ['records', 'tasks'] })
    expect([keys.of(key, expiresAt - 1) === null, keys.of(key, expiresAt)]).toEqual([false, null])
    expect(keys.goesOn(found?.id ?? 0, expiresAt)).toBe(false)
    expect(keys.list('rosa')[0]).toMatchObject({ expiresAt })
  })

  it('of everybody are listed and revoked by whoever looks after them, and all of one at once', () => {
    const { workspace } = larkmoor()
    const { keys } = workspace.store
    const [rosa, jude] = [keys.create('rosa', 'a', NOW_MS), keys.create('jude', 'b', NOW_MS)]
    keys.create('rosa', 'c', NOW_MS)
    expect(keys.list(null).map(({ personId, name }) => `${personId} ${name}`)).toEqual(['rosa c', 'jude b', 'rosa a'])
    keys.revokeAll('rosa', NOW_MS)
    expect([keys.of(rosa, NOW_MS), keys.of(jude, NOW_MS)?.personId]).toEqual([null, 'jude'])
    expect(keys.revoke(keys.list(null)[0]?.id ?? 0, NOW_MS)).toBe(true)
    expect(keys.list(null)).toEqual([])
  })
})
