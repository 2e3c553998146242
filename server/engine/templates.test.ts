import { describe, expect, it } from 'vitest'
import type { GivenTemplate } from '../../core/messages/template'
import { document, enters } from '../../core/testing/rules'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { templateSheets } from '../views/templates'
import { changeTemplate, makeTemplate, rulesWith, sendTest } from './templates'
import type { Workspace } from './workspace'

const given = (more: Partial<GivenTemplate> = {}): GivenTemplate => ({
  name: 'Quote sent',
  folder: '',
  channel: 'mail',
  variants: [{ language: '', subject: 'Your quote', text: 'Dear {{contact.name}}, here it is.' }],
  ...more,
})
const text = (subject: string, body: string, language = '') => ({ language, subject, text: body })
const templateOf = (workspace: Workspace, id: number) =>
  workspace.catalogue().data.templates!.find((one) => one.id === id)!
const sends = (template: number) =>
  document(
    {
      when: [enters('hp-quoted')],
      then: [
        [
          'sendMessage',
          {
            channel: 'mail',
            to: 'main',
            from: 'owner',
            copy: [],
            template,
            subject: '',
            body: '',
            phone: 'phone',
            otherPhone: false,
            again: 0,
            urgent: '',
            answered: false,
            label: '',
          },
        ],
      ],
    },
    'Sends it',
  )
const findings = (workspace: Workspace, id: number) =>
  templateSheets(workspace).templates.find((one) => one.id === id)?.findings

describe('a template', () => {
  it('is there once it is made, and another of the same name is refused, however it is written', () => {
    const { workspace } = larkmoor()
    const id = makeTemplate(workspace, given(), 'ines')
    expect(templateOf(workspace, id)).toMatchObject({ name: 'Quote sent', version: 1, archived: false })
    expect(refusal(() => makeTemplate(workspace, given({ name: ' quote SENT' }), 'ines'))).toContain('name: ')
    const other = makeTemplate(workspace, given({ name: 'Visit agreed' }), 'ines')
    expect(
      refusal(() => changeTemplate(workspace, templateOf(workspace, other), { template: given() }, 'ines')),
    ).toContain('Quote sent')
    // Its own name is no other's.
    changeTemplate(workspace, templateOf(workspace, id), { template: given({ folder: 'Quotes' }) }, 'ines')
    expect(templateOf(workspace, id).folder).toBe('Quotes')
  })

  it('counts a version for each change of its words and for nothing else, and keeps what it said', () => {
    const { workspace, clock } = larkmoor()
    const id = makeTemplate(workspace, given(), 'ines')
    changeTemplate(workspace, templateOf(workspace, id), { template: given({ name: 'Quote is out' }) }, 'ines')
    expect(templateOf(workspace, id).version).toBe(1)
    clock.set(clock.nowMs() + 60_000)
    const words = given({ variants: [text('Your quote', 'It is here.')] })
    changeTemplate(workspace, templateOf(workspace, id), { template: words }, 'jude')
    expect(templateOf(workspace, id)).toMatchObject({ version: 2, variants: words.variants })
    expect(workspace.store.templates.versions(id)).toMatchObject([
      { version: 1, variants: given().variants, changedBy: 'ines' },
    ])
    expect(templateSheets(workspace).templates.find((one) => one.id === id)).toMatchObject({
      changedBy: 'jude',
      changedAt: clock.nowMs(),
    })
  })

  it('keeps its channel: what was written for mail is no text message', () => {
    const { workspace } = larkmoor()
    const id = makeTemplate(workspace, given(), 'ines')
    expect(
      refusal(() =>
        changeTemplate(workspace, templateOf(workspace, id), { template: given({ channel: 'text' }) }, 'ines'),
      ),
    ).toContain('channel: ')
  })

  it('stays out of the archive while a rule sends it, and goes once the rule is there itself', () => {
    const { workspace } = larkmoor()
    const id = makeTemplate(workspace, given(), 'ines')
    const rule = switchOn(workspace, sends(id))
    expect(rulesWith(workspace, id)).toEqual([{ id: rule, name: 'Sends it' }])
    const archive = () => changeTemplate(workspace, templateOf(workspace, id), { archived: true }, 'ines')
    expect(refusal(archive)).toContain('Sends it')
    expect(templateOf(workspace, id).archived).toBe(false)
    workspace.store.rules.setState(rule, 'archived', 'ines', 0)
    archive()
    expect(templateOf(workspace, id).archived).toBe(true)
    // Its name is free again.
    expect(makeTemplate(workspace, given(), 'ines')).not.toBe(id)
  })

  it('is tried on whoever asks, with the values of a contact who gets nothing', () => {
    const { workspace } = larkmoor()
    const variants = [
      text('Your quote', 'Dear {{contact.name}}.'),
      text('Cotação', 'Cara {{contact.name}}.', 'Portuguese'),
    ]
    const id = makeTemplate(workspace, given({ variants }), 'ines')
    const contact = workspace.create('contact', { name: 'Tala Moss', email: 'tala@harbour.example' }, [], 'ines').ref
    const ines = workspace.catalogue().person('ines')!
    const test = (language: string) =>
      sendTest(workspace, templateOf(workspace, id), { contactId: contact.id, language }, ines)
    expect(test('portuguese')).toBe(ines.email)
    const sent = () => workspace.db.sqlite.prepare('SELECT recipient, subject, body FROM outbox').all()
    expect(sent()).toEqual([{ recipient: ines.email, subject: 'Test: Cotação', body: 'Cara Tala Moss.' }])
    expect(
      refusal(() => sendTest(workspace, templateOf(workspace, id), { contactId: 9999, language: '' }, ines)),
    ).toContain('contactId: ')
  })
})

describe('what is wrong with a template, or may be', () => {
  it('is nothing for a plain one', () => {
    const { workspace } = larkmoor()
    expect(findings(workspace, makeTemplate(workspace, given(), 'ines'))).toEqual([])
  })

  it.each([
    ['No subject', text(' ', 'Words.')],
    ['No text', text('Subject', ' \n')],
    ['A link without https', text('Subject', 'See http://larkmoor.example for more.')],
    ['Reads like unwanted mail', text('ACTNOWACTNOW', 'Words.')],
    ['Reads like unwanted mail', text('Subject', 'You are the winner today.')],
  ])('says “%s”', (says, variant) => {
    const { workspace } = larkmoor()
    expect(findings(workspace, makeTemplate(workspace, given({ variants: [variant] }), 'ines'))).toEqual([says])
  })

  it('names the language where it is not that for everyone', () => {
    const { workspace } = larkmoor()
    const variants = [text('Subject', 'Words.'), text('', 'Palavras.', 'Portuguese')]
    expect(findings(workspace, makeTemplate(workspace, given({ variants }), 'ines'))).toEqual([
      'No subject (Portuguese)',
      'No text of its own in English, Polish, French',
    ])
  })

  it('counts text messages by their length, and mails not', () => {
    const { workspace } = larkmoor()
    const long = [text('Subject', 'a'.repeat(321))]
    expect(findings(workspace, makeTemplate(workspace, given({ channel: 'text', variants: long }), 'ines'))).toEqual([
      'Longer than two text messages',
    ])
    expect(findings(workspace, makeTemplate(workspace, given({ name: 'Mail', variants: long }), 'ines'))).toEqual([])
  })

  it('says which field is empty for half of all contacts, unless words stand behind it', () => {
    const { workspace } = larkmoor()
    for (const phone of ['+351 21 000', null]) workspace.create('contact', { name: 'Tala', phone }, [], 'ines')
    const body = (merge: string) => given({ name: merge, variants: [text('Subject', `Call {{${merge}}}.`)] })
    expect(findings(workspace, makeTemplate(workspace, body('contact.phone'), 'ines'))).toEqual([
      expect.stringContaining('empty for 1 of 2 contacts'),
    ])
    expect(findings(workspace, makeTemplate(workspace, body('contact.phone or "us"'), 'ines'))).toEqual([])
    expect(findings(workspace, makeTemplate(workspace, body('contact.nothing'), 'ines'))).toHaveLength(1)
  })
})
