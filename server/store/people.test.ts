import { describe, expect, it } from 'vitest'
import { freshPersonId, setUpWorkspace } from '../engine/set-up'
import { blank, larkmoor, NOW_MS } from '../testing/workspace'

describe('accounts', () => {
  it('a new password and signing out everywhere make earlier cookies void', () => {
    const { workspace } = larkmoor()
    const { people } = workspace.store
    const epoch = () => people.accountOf('rosa')?.sessionEpoch
    expect(epoch()).toBe(0)
    people.setPassword('rosa', 'scrypt$…')
    expect([epoch(), people.accountOf('rosa')?.passwordHash]).toEqual([1, 'scrypt$…'])
    people.endSessions('rosa')
    expect([epoch(), people.accountOf('jude')?.sessionEpoch]).toEqual([2, 0])
    expect(people.accountOf('nobody')).toBeNull()
  })

  it('hashes never travel with the catalogue', () => {
    const { workspace } = larkmoor()
    workspace.store.people.setPassword('rosa', 'scrypt$secret')
    workspace.catalogueChanged()
    expect(JSON.stringify(workspace.catalogue().data)).not.toContain('secret')
    expect(Object.keys(workspace.catalogue().person('rosa') ?? {})).not.toContain('passwordHash')
  })
})

describe('keys for the API', () => {
  it('are shown once, known again, and gone once revoked', () => {
    const { workspace } = larkmoor()
    const { people } = workspace.store
    const token = people.createToken('rosa', 'the warehouse', NOW_MS)
    expect(people.ofToken(token, NOW_MS)).toEqual({ personId: 'rosa', name: 'the warehouse' })
    const [line] = people.tokensOf('rosa')
    expect(line).toMatchObject({ name: 'the warehouse', start: token.slice(0, 9), lastUsedAt: NOW_MS })
    expect(JSON.stringify(workspace.db.sqlite.prepare('SELECT * FROM api_tokens').all())).not.toContain(token)
    expect(people.revokeToken('jude', line?.id ?? 0, NOW_MS)).toBe(false)
    expect(people.revokeToken('rosa', line?.id ?? 0, NOW_MS)).toBe(true)
    expect([people.ofToken(token, NOW_MS), people.tokensOf('rosa'), people.ofToken('slv_made-up', NOW_MS)]).toEqual([
      null,
      [],
      null,
    ])
  })

  it('note their last use to the hour', () => {
    const { workspace } = larkmoor()
    const { people } = workspace.store
    const token = people.createToken('rosa', 'x', NOW_MS)
    for (const minutes of [0, 30, 59, 61]) people.ofToken(token, NOW_MS + minutes * 60_000)
    expect(people.tokensOf('rosa')[0]?.lastUsedAt).toBe(NOW_MS + 61 * 60_000)
  })
})

describe('setting a workspace up', () => {
  it('gives it fields, a pipeline and its first specialist, once', () => {
    const workspace = blank()
    expect(workspace.catalogueOrNull()).toBeNull()
    const given = {
      name: 'Brackwater',
      zone: 'Europe/Lisbon',
      currency: 'EUR',
      specialist: { name: 'Ána Órdem', email: 'ana@brackwater.example', passwordHash: 'scrypt$…' },
    }
    const id = setUpWorkspace(workspace, given)
    expect(id).toBe('ana-ordem')
    expect(workspace.catalogue().person(id)).toMatchObject({ name: 'Ána Órdem', role: 'specialist', active: true })
    const { ref } = workspace.create('deal', { name: 'First', stage: 'sales-new', amount: 5, owner: id }, [], id)
    expect(workspace.store.records.read(ref)?.values).toMatchObject({ pipeline: 'sales', createdAt: NOW_MS })
    expect(() => setUpWorkspace(workspace, given)).toThrow('set up already')
  })

  it('gives everybody an id of their own', () => {
    expect(freshPersonId('Rosa Amara', [])).toBe('rosa-amara')
    expect(freshPersonId('Rosa Amara', ['rosa-amara', 'rosa-amara-2'])).toBe('rosa-amara-3')
    expect(freshPersonId('李', [])).toBe('person')
  })
})
