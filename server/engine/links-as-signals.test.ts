import { describe, expect, it } from 'vitest'
import { document, task } from '../../core/testing/rules'
import type { ObjectKind } from '../../core/records/kinds'
import { larkmoor, switchOn } from '../testing/workspace'
import { titles } from './derived.setting'

const on = (object: ObjectKind, to: ObjectKind, how: string, title: string) =>
  document({ object, when: [['linked', { to, how }]], then: [task(title, { again: true })] }, title)

describe('a link', () => {
  it('starts rules of both ends, once each, when it comes and when it goes', () => {
    const { workspace } = larkmoor()
    const deal = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines').ref
    const firm = workspace.create('company', { name: 'Ribeira', owner: 'rosa' }, [], 'ines').ref
    switchOn(workspace, on('deal', 'company', 'added', 'Deal has a firm'))
    switchOn(workspace, on('company', 'deal', 'added', 'Firm has a deal'))
    switchOn(workspace, on('deal', 'company', 'removed', 'Firm left'))
    workspace.link(deal, firm, '', false, 'ines')
    expect(titles(workspace)).toEqual(['Deal has a firm', 'Firm has a deal'])
    // Another role is no other link.
    workspace.link(deal, firm, 'pays', true, 'ines')
    workspace.unlink(deal, firm, 'ines')
    expect(titles(workspace)).toEqual(['Deal has a firm', 'Firm has a deal', 'Firm left'])
  })

  it('that a record is created with starts the rules of the record it is linked to, and no others', () => {
    const { workspace } = larkmoor()
    const firm = workspace.create('company', { name: 'Ribeira', owner: 'rosa' }, [], 'ines').ref
    switchOn(workspace, on('deal', 'company', 'added', 'Deal has a firm'))
    switchOn(workspace, on('company', 'deal', 'added', 'Firm has a deal'))
    switchOn(workspace, on('company', 'contact', 'added', 'Firm has a contact'))
    workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [firm], 'ines')
    expect(titles(workspace)).toEqual(['Firm has a deal'])
  })

  it('leaves no event where nobody listens', () => {
    const { workspace } = larkmoor()
    const [a, b] = ['A', 'B'].map((name) => workspace.create('company', { name }, [], 'ines').ref)
    const contact = workspace.create('contact', { name: 'Vera' }, [], 'ines').ref
    const before = workspace.store.events.last()
    workspace.link(contact, a!, '', false, 'ines')
    expect(workspace.store.events.last()).toBe(before)
    switchOn(workspace, on('contact', 'company', 'added', 'Contact has a firm'))
    workspace.link(contact, b!, '', false, 'ines')
    expect(workspace.store.events.last()).toBe(before + 1)
  })
})
