import { describe, expect, it } from 'vitest'
import { freshPersonId, setUpWorkspace } from '../engine/set-up'
import { blank, larkmoor, NOW_MS } from '../testing/workspace'

describe('accounts', () => {
  it('hashes never travel with the catalogue', () => {
    const { workspace } = larkmoor()
    workspace.store.people.setPassword('rosa', 'scrypt$secret')
    workspace.catalogueChanged()
    expect(JSON.stringify(workspace.catalogue().data)).not.toContain('secret')
    expect(Object.keys(workspace.catalogue().person('rosa') ?? {})).not.toContain('passwordHash')
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
