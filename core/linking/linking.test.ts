import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { active } from '../testing/rules'
import { TestWorld } from '../testing/world'
import type { Field } from '../fields/field'
import { isLeftOut, matchForm, partsFor, type LinkBy, type MatchPart } from './link-by'
import { PUBLIC_MAIL_DOMAINS } from './public-mail'
import { catalogue } from '../testing/setting'

const field = (object: Field['object'], key: string): Field => catalogue.field(object, key)!
const [email, domain, phone] = [field('contact', 'email'), field('company', 'domain'), field('contact', 'phone')]
const by: LinkBy = {
  to: 'company',
  ownField: 'email',
  theirField: 'domain',
  part: 'domain',
  several: 'leave',
  publicToo: false,
  leftOut: [],
}

describe('what is compared', () => {
  it.each<[string, Field, MatchPart, string | null]>([
    ['ada@Lund.example', email, 'domain', 'lund.example'],
    ['lund.example', domain, 'domain', 'lund.example'],
    ['https://www.Lund.example/shop?x#y', domain, 'domain', 'lund.example'],
    ['www.lund.example', domain, 'domain', 'lund.example'],
    ['http://lund.example:8080', domain, 'domain', 'lund.example'],
    ['info@lund.example', domain, 'domain', 'lund.example'],
    ['Lund Bakery', domain, 'domain', null],
    ['lund', domain, 'domain', null],
    ['', domain, 'domain', null],
    ['+351 210 000 123', phone, 'digits', '351210000123'],
    ['00351 210-000-123', domain, 'digits', '351210000123'],
    ['ext. 12', domain, 'digits', null],
    ['  LUND  Bakery', domain, 'whole', 'lund bakery'],
  ])('%s', (value, of, part, form) => {
    expect(matchForm(value, of, part, catalogue)).toBe(form)
  })

  it('is only what both fields can hold', () => {
    expect([
      partsFor(email, domain),
      partsFor(phone, field('company', 'name')),
      partsFor(email, phone),
      partsFor(field('contact', 'birthday'), domain),
    ]).toEqual([['whole', 'domain'], ['whole', 'digits'], [], []])
  })

  it('is stable: the form of a form is the form', () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom<MatchPart>('whole', 'domain', 'digits'), (text, part) => {
        const form = matchForm(text, domain, part, catalogue)
        if (form !== null) expect(matchForm(form, domain, part, catalogue)).toBe(form)
      }),
      { seed: 3 },
    )
  })

  it('public mail domains say nothing, unless wanted; others can be left out as well', () => {
    expect(PUBLIC_MAIL_DOMAINS.size).toBeGreaterThan(100)
    for (const one of PUBLIC_MAIL_DOMAINS) expect(matchForm(`x@${one}`, email, 'domain', catalogue)).toBe(one)
    const [first = ''] = PUBLIC_MAIL_DOMAINS
    expect([
      isLeftOut(first, by),
      isLeftOut(first, { ...by, publicToo: true }),
      isLeftOut('post.example', by),
      isLeftOut('post.example', { ...by, leftOut: [' someone@Post.example '] }),
    ]).toEqual([true, false, false, true])
  })
})

describe('the step', () => {
  const rule = (more: Partial<LinkBy> = {}) => [
    active(1, { object: 'contact', when: [['created', {}]], then: [['linkMatch', { ...by, ...more }]] }),
  ]
  function world() {
    const made = new TestWorld()
    made.add('company', 1, { name: 'Lund', domain: 'lund.example' })
    made.add('company', 2, { name: 'Lund Two', domain: 'https://www.lund.example/' })
    made.add('company', 3, { name: 'Holm', domain: 'holm.example' })
    made.drain([])
    return made
  }

  it('links to the one that matches, once, and says what it did', () => {
    const one = world()
    const contact = one.add('contact', 9, { email: 'ada@holm.example' })
    expect(one.drain(rule())[0]?.steps).toEqual([
      { state: 'done', wrote: [{ what: 'link', from: contact, to: { object: 'company', id: 3 }, name: 'Holm' }] },
    ])
    expect(one.linked(contact, 'company').map(({ record }) => record.id)).toEqual([3])
    // Under another rule the same event comes again.
    one.position = 3
    const again = rule().map((each) => ({ ...each, ruleId: 2 }))
    expect(one.drain(again)[0]?.steps).toEqual([{ state: 'skipped', reason: { code: 'hasLink', to: 'company' } }])
  })

  it.each([
    ['leave', 'skipped', []],
    ['oldest', 'done', [1]],
    ['all', 'done', [1, 2]],
  ] as const)('when several match: %s', (several, state, ids) => {
    const one = world()
    const contact = one.add('contact', 9, { email: 'ada@lund.example' })
    const [report] = one.drain(rule({ several }))
    expect(report?.steps[0]?.state).toBe(state)
    expect(one.linked(contact, 'company').map(({ record }) => record.id)).toEqual(ids)
    if (several === 'leave')
      expect(report?.steps[0]).toMatchObject({
        reason: { code: 'severalMatch', form: 'lund.example', names: ['Lund', 'Lund Two'] },
      })
  })

  it('from the other end links in the direction in which links are kept', () => {
    const one = world()
    const contact = one.add('contact', 9, { email: 'ada@fjord.example' })
    one.drain([])
    const company = one.add('company', 4, { domain: 'fjord.example' })
    one.drain([
      active(2, {
        object: 'company',
        when: [['created', {}]],
        then: [['linkMatch', { ...by, to: 'contact', ownField: 'domain', theirField: 'email', several: 'all' }]],
      }),
    ])
    expect(one.linked(contact, 'company').map(({ record }) => record.id)).toEqual([company.id])
  })
})
