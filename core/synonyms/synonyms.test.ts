import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Catalogue } from '../fields/catalogue'
import { compileGroup } from '../conditions/compile'
import { alone } from '../conditions/subject'
import { all, condition } from '../testing/rules'
import { doubleSpelling, spellingsFromText, spellingsToText, zSpellings } from './check'
import { countrySpellings } from './countries'
import { JOB_ROLES } from './job-roles'
import { catalogue as plain, moment } from '../testing/setting'

const catalogue = new Catalogue({
  ...plain.data,
  synonyms: [{ id: 7, name: 'Countries', groups: countrySpellings() }],
  fields: plain.data.fields.map((field) =>
    field.object === 'company' && field.key === 'country' ? { ...field, synonyms: 7 } : field,
  ),
})
const country = catalogue.field('company', 'country')!

describe('spellings that ship', () => {
  it('name nothing twice, and every country there is', () => {
    expect([doubleSpelling(countrySpellings()), doubleSpelling(JOB_ROLES)]).toEqual([null, null])
    expect(countrySpellings()).toHaveLength(249)
    expect([zSpellings.safeParse(countrySpellings()).success, zSpellings.safeParse(JOB_ROLES).success]).toEqual([
      true,
      true,
    ])
  })

  it.each([
    ['UK', 'great britain'],
    ['GB', 'Vereinigtes Königreich'],
    ['Éire', 'IRELAND'],
    ['Polska', 'Poland'],
    ['nova zelândia', 'NZ'],
    ['Holland', 'Pays-Bas'],
  ])('%s and %s are one country', (a, b) => {
    expect(catalogue.compared(country, a)).toBe(catalogue.compared(country, b))
  })

  it('keep apart what is not the same', () => {
    expect(
      new Set(
        ['Ireland', 'UK', 'Iceland', 'Niger', 'Nigeria', 'Guinea', 'Equatorial Guinea', 'Ruritania'].map((name) =>
          catalogue.compared(country, name),
        ),
      ).size,
    ).toBe(8)
    expect([catalogue.ownSpelling(country, 'brd'), catalogue.ownSpelling(country, 'Ruritania')]).toEqual([
      'Germany',
      'Ruritania',
    ])
  })
})

describe('comparing by synonyms', () => {
  const holds = (op: 'is' | 'isAnyOf' | 'contains', params: object, value: string) =>
    compileGroup(all(condition('country', op, params)), 'company', catalogue).test(alone({ country: value }), moment)
  it('takes every spelling for the same, and leaves what is written alone', () => {
    expect([
      holds('is', { value: 'United Kingdom' }, 'UK'),
      holds('isAnyOf', { values: ['Ireland', 'GB'] }, 'great  britain'),
      holds('is', { value: 'UK' }, 'Ukraine'),
    ]).toEqual([true, true, false])
    // What a text contains is asked of the text.
    expect([
      holds('contains', { value: 'king' }, 'UK'),
      holds('contains', { value: 'king' }, 'United Kingdom'),
    ]).toEqual([false, true])
  })
})

describe('spellings as text', () => {
  it('read back as they were, and one that would be two things is found', () => {
    const spelling = fc
      .string({ minLength: 1 })
      .map((text) => text.replace(/[=\r\n\u0085\u2028\u2029]/g, '').trim())
      .filter((text) => text !== '')
    fc.assert(
      fc.property(fc.array(fc.array(spelling, { minLength: 1, maxLength: 4 }), { maxLength: 5 }), (groups) => {
        expect(spellingsFromText(spellingsToText(groups))).toEqual(groups)
      }),
      { seed: 4 },
    )
    expect(
      doubleSpelling([
        ['Ireland', 'Éire'],
        ['Iceland', 'EIRE'],
      ]),
    ).toEqual({ spelling: 'EIRE', first: 'Ireland', second: 'Iceland' })
    expect(doubleSpelling([['Ireland', 'IRELAND', ' ireland ']])).toBeNull()
    expect(spellingsFromText(' UK = Great Britain \n\n =\nIreland')).toEqual([['UK', 'Great Britain'], ['Ireland']])
  })
})
