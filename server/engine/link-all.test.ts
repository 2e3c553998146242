import { describe, expect, it } from 'vitest'
import { document } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import { larkmoor, switchOn } from '../testing/workspace'
import { recordPage } from '../views/record'
import { checkOrder, makeLinks, planLinks, type LinkOrder } from './link-all'
import { RefusedError, type Workspace } from './workspace'

const by: LinkOrder = {
  object: 'contact',
  to: 'company',
  ownField: 'email',
  theirField: 'domain',
  part: 'domain',
  several: 'leave',
  publicToo: false,
  leftOut: ['post.example'],
}
const company = (workspace: Workspace, name: string, domain: string): RecordRef =>
  workspace.create('company', { name, domain }, [], 'ines').ref
const contact = (
  workspace: Workspace,
  name: string,
  email: string | null,
  linkTo: readonly RecordRef[] = [],
): RecordRef => workspace.create('contact', { name, email }, linkTo, 'ines').ref

/** 150 contacts of 40 companies, two of which share a domain. */
function fair(): Workspace {
  const { workspace } = larkmoor()
  const companies = Array.from({ length: 40 }, (_, i) =>
    company(
      workspace,
      `Company ${i}`,
      i === 39 ? 'c38.example' : i % 3 ? `c${i}.example` : `https://www.C${i}.example/`,
    ),
  )
  for (let i = 0; i < 150; i++) {
    const domain =
      i < 10
        ? 'gmail.com'
        : i < 15
          ? 'post.example'
          : i < 20
            ? 'nobody.example'
            : i < 26
              ? 'c38.example'
              : `c${i % 38}.example`
    contact(workspace, `Contact ${i}`, i === 149 ? null : `p${i}@${domain}`, i >= 140 && i < 149 ? [companies[0]!] : [])
  }
  return workspace
}

describe('linking what is there', () => {
  it('150 contacts by mail domain: shared domains left out, two companies with one domain reported, a second time nothing', () => {
    const workspace = fair()
    const plan = planLinks(workspace, by)
    expect([plan.total, plan.counts, plan.links]).toEqual([
      150,
      { link: 114, linked: 9, empty: 1, leftOut: 15, none: 5, several: 6 },
      114,
    ])
    expect(plan.doubtful.map((one) => [one.form, one.among.map((other) => other.name)])[0]).toEqual([
      'c38.example',
      ['Company 38', 'Company 39'],
    ])
    expect(plan.unmatched).toEqual([
      { form: 'gmail.com', leftOut: true, count: 10 },
      { form: 'nobody.example', leftOut: false, count: 5 },
      { form: 'post.example', leftOut: true, count: 5 },
    ])
    expect(makeLinks(workspace, { by, personId: 'ines' })).toEqual({ made: 114 })
    expect(makeLinks(workspace, { by, personId: 'ines' })).toEqual({ made: 0 })
    expect(planLinks(workspace, by).counts).toMatchObject({ link: 0, linked: 123 })
    // It stands on both pages, with whoever did it.
    const page = recordPage(workspace, { object: 'contact', id: 60 })!
    expect(page.links.map((link) => link.name)).toEqual([`Company ${59 % 38}`])
    expect(page.timeline.find((entry) => entry.what === 'link')).toMatchObject({
      act: 'linked',
      name: `Company ${59 % 38}`,
      doer: { name: 'Ines Calloway' },
    })
  })

  it('from the companies it comes to the same links', () => {
    const workspace = fair()
    const back: LinkOrder = {
      ...by,
      object: 'company',
      to: 'contact',
      ownField: 'domain',
      theirField: 'email',
      several: 'all',
    }
    // Two companies claim the same six contacts: the first that comes has them.
    expect(planLinks(workspace, back).counts).toMatchObject({ link: 40 })
    makeLinks(workspace, { by: { ...by, several: 'oldest' }, personId: 'ines' })
    expect(planLinks(workspace, back)).toMatchObject({ links: 0, counts: { link: 0 } })
  })

  it('refuses what could link nothing, by the word that is wrong', () => {
    const { workspace } = larkmoor()
    const places = (order: LinkOrder) => {
      try {
        checkOrder(workspace, order)
        return []
      } catch (error) {
        if (error instanceof RefusedError) return error.problems.map(({ path }) => path)
        throw error
      }
    }
    expect([
      places(by),
      places({ ...by, ownField: 'gone' }),
      places({ ...by, ownField: 'birthday' }),
      places({ ...by, to: 'contact' }),
      places({ ...by, part: 'digits' }),
    ]).toEqual([[], ['ownField'], ['ownField'], ['to', 'theirField'], ['part']])
  })
})

describe('linking as a step', () => {
  const rule = document(
    {
      object: 'contact',
      when: [
        ['created', {}],
        ['fieldChanges', { field: 'email', how: 'filled', from: null, to: null }],
      ],
      then: [
        [
          'linkMatch',
          {
            to: 'company',
            ownField: 'email',
            theirField: 'domain',
            part: 'domain',
            several: 'leave',
            publicToo: false,
            leftOut: [],
          },
        ],
      ],
    },
    'Find the company',
  )

  it('looks them up in the database, whatever the domain is written like, and says on the page which rule it was', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, rule)
    const lund = company(workspace, 'Lund', 'HTTPS://www.Lund.example/')
    company(workspace, 'Lund Far', 'farlund.example')
    const ref = contact(workspace, 'Ada', 'ada@lund.example')
    const page = recordPage(workspace, ref)!
    expect(page.links.map((link) => link.ref)).toEqual([lund])
    expect(page.timeline.find((entry) => entry.what === 'link')).toMatchObject({
      name: 'Lund',
      doer: { by: 'rule', name: 'Find the company' },
    })
    expect(recordPage(workspace, lund)!.timeline.some((entry) => entry.what === 'link' && entry.name === 'Ada')).toBe(
      true,
    )
    workspace.unlink(ref, lund, 'ines')
    expect(recordPage(workspace, ref)!.timeline[0]).toMatchObject({
      what: 'link',
      act: 'unlinked',
      doer: { name: 'Ines Calloway' },
    })
  })

  it.each([
    ['digits', 'phone', 'reference', '+351210000123', '00351 210 000 123'],
    ['whole', 'name', 'reference', 'Kiln  Lane', 'KILN LANE'],
  ] as const)('by %s', (part, theirField, ownField, theirs, own) => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document({
        object: 'deal',
        when: [['created', {}]],
        then: [
          ['linkMatch', { to: 'contact', ownField, theirField, part, several: 'leave', publicToo: false, leftOut: [] }],
        ],
      }),
    )
    const ada = workspace.create('contact', { name: 'Ada', [theirField]: theirs }, [], 'ines').ref
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', [ownField]: own }, [], 'ines')
    expect(workspace.store.links.of(ref).map((link) => link.to)).toEqual([ada])
  })
})
