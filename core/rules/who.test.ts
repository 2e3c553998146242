import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Catalogue } from '../fields/catalogue'
import type { Values } from '../language/value'
import type { RecordSnapshot } from '../records/record'
import { nothingAround } from '../testing/around'
import { catalogue, names, TODAY } from '../testing/setting'
import { checkWho, chooseAll, chooseWho, sayWho, teamsOf, WHO_WAYS, zWho, type Who, type WhoContext } from './who'

/** The same people, some of them changed. */
const withPeople = (changed: Readonly<Record<string, object>>): Catalogue =>
  new Catalogue({
    ...catalogue.data,
    people: catalogue.data.people.map((one) => ({ ...one, ...changed[one.id] })),
  })
const around = (more: Partial<WhoContext> = {}): WhoContext => ({ ...nothingAround('deal', {}), ...more })
/** Whom it comes to, by name; or why it is nobody. */
function chosen(who: Who, values: Values = {}, more: Partial<WhoContext> = {}): string {
  const found = chooseWho(who, values, TODAY, around(more))
  return 'none' in found ? found.none.code : `${found.person.id}${found.turn ? ' in turn' : ''}`
}
const company = (country: string): RecordSnapshot => ({
  object: 'company',
  id: 9,
  version: 1,
  values: { name: 'Lund', country },
})

describe('who gets something', () => {
  it('is the owner, or their deputy while they are away or have left', () => {
    expect(chosen({ by: 'owner' }, { owner: 'jude' })).toBe('jude')
    expect(chosen({ by: 'owner' }, { owner: 'piet' })).toBe('rosa')
    expect(chosen({ by: 'owner' }, { owner: null })).toBe('nobody')
    expect(chosen({ by: 'owner' }, { owner: 'no-such' })).toBe('nobody')
    const left = withPeople({ jude: { active: false } })
    expect(chosen({ by: 'owner' }, { owner: 'jude' }, { catalogue: left })).toBe('left')
    const deputy = withPeople({ jude: { active: false, deputyId: 'anouk' } })
    expect(chosen({ by: 'owner' }, { owner: 'jude' }, { catalogue: deputy })).toBe('anouk')
    // Away without a deputy: it waits for them rather than for nobody.
    const alone = withPeople({ piet: { deputyId: null } })
    expect(chosen({ by: 'owner' }, { owner: 'piet' }, { catalogue: alone })).toBe('piet')
    const deputyLeft = withPeople({ rosa: { active: false } })
    expect(chosen({ by: 'owner' }, { owner: 'piet' }, { catalogue: deputyLeft })).toBe('piet')
  })

  it('is whoever is named, if there is one', () => {
    expect(chosen({ by: 'person', person: 'anouk' })).toBe('anouk')
    expect(chosen({ by: 'person', person: 'gone' })).toBe('noPerson')
    expect(chosen({ by: 'person', person: null })).toBe('noPerson')
  })

  it('goes round in turn, past those who are away', () => {
    const people = ['rosa', 'piet', 'brisa']
    const round = Array.from({ length: 5 }, (_, n) => chosen({ by: 'turn', people }, {}, { turn: () => n }))
    expect(round).toEqual(['rosa', 'brisa', 'rosa', 'brisa', 'rosa'].map((id) => `${id} in turn`))
    // Where all are away, whoever stands in for them has it.
    expect(chosen({ by: 'turn', people: ['piet'] })).toBe('rosa in turn')
    expect(chosen({ by: 'turn', people: ['no-such'] })).toBe('allAway')
  })

  it('gives everybody in turn as much as everybody else, give or take one', () => {
    const people = ['rosa', 'tomasz', 'brisa', 'jude']
    fc.assert(
      fc.property(fc.subarray(people, { minLength: 1 }), fc.integer({ min: 1, max: 60 }), (some, n) => {
        const counts = new Map<string, number>()
        for (let i = 0; i < n; i++) {
          const one = chosen({ by: 'turn', people: some }, {}, { turn: () => i })
          counts.set(one, (counts.get(one) ?? 0) + 1)
        }
        const all = [...counts.values()]
        expect(Math.max(...all) - (counts.size === some.length ? Math.min(...all) : 0)).toBeLessThanOrEqual(1)
      }),
    )
  })

  it('is the least busy of those who are there, the first of several', () => {
    const open: Readonly<Record<string, number>> = { rosa: 3, brisa: 1, tomasz: 1, piet: 0 }
    const load = { openTasks: (id: string) => open[id] ?? 0 }
    expect(chosen({ by: 'load', people: ['rosa', 'brisa', 'tomasz', 'piet'] }, {}, load)).toBe('brisa')
    expect(chosen({ by: 'load', people: ['rosa', 'piet'] }, {}, load)).toBe('rosa')
    expect(chosen({ by: 'load', people: [] }, {}, load)).toBe('allAway')
  })

  it('is whoever covers the company’s territory', () => {
    const of = (country: string) => ({ related: () => company(country) })
    expect(chosen({ by: 'territory' }, {}, of('Poland'))).toBe('tomasz')
    expect(chosen({ by: 'territory' }, {}, of('Canada'))).toBe('callum')
    // The last one takes whatever no other does.
    expect(chosen({ by: 'territory' }, {}, of('Atlantis'))).toBe('rosa')
    const two = new Catalogue({ ...catalogue.data, territories: catalogue.data.territories?.slice(0, 2) ?? [] })
    expect(chosen({ by: 'territory' }, {}, { ...of('Atlantis'), catalogue: two })).toBe('noTerritory')
    expect(chosen({ by: 'territory' })).toBe('noCompany')
    // A company’s own territory needs no link.
    expect(chosen({ by: 'territory' }, {}, { record: company('Poland') })).toBe('tomasz')
  })

  it('is nobody yet in a queue, and each of a team who is there', () => {
    expect(chosen({ by: 'queue', team: 'Hire' })).toBe('inQueue')
    const everyone = (team: string, day = TODAY) => {
      const found = chooseAll({ by: 'everyone', team }, {}, day, around())
      return 'none' in found ? found.none.code : found.people.map(({ id }) => id)
    }
    expect(everyone('Hire')).toEqual(['rosa', 'tomasz', 'brisa'])
    expect(everyone('Hire', '2027-01-10')).toEqual(['rosa', 'tomasz', 'brisa', 'piet'])
    expect(everyone('No such')).toBe('allAway')
    const one = chooseAll({ by: 'owner' }, { owner: 'jude' }, TODAY, around())
    expect('people' in one && one.people.map(({ id }) => id)).toEqual(['jude'])
    expect(chooseAll({ by: 'owner' }, {}, TODAY, around())).toMatchObject({ none: { code: 'nobody' } })
  })

  it.each([
    [{ by: 'person', person: null }, 'missing'],
    [{ by: 'turn', people: [] }, 'missing'],
    [{ by: 'load', people: ['rosa', 'gone'] }, 'unknownPerson'],
    [{ by: 'queue', team: 'Hire' }, 'noQueue'],
    [{ by: 'everyone', team: 'Hire' }, 'onePerson'],
  ] as const)('%o is not finished: %s', (who, code) => {
    expect(checkWho(who as Who, names())).toMatchObject({ code })
  })

  it('may be a queue or all of a team where that makes sense, and only of a team that there is', () => {
    expect(checkWho({ by: 'queue', team: 'Hire' }, names(), { queue: true })).toBe(null)
    expect(checkWho({ by: 'queue', team: null }, names(), { queue: true })).toMatchObject({ code: 'missing' })
    expect(checkWho({ by: 'everyone', team: 'Sea' }, names(), { everyone: true })).toEqual({
      code: 'noTeam',
      team: 'Sea',
    })
    expect(checkWho({ by: 'owner' }, names())).toBe(null)
    expect(checkWho({ by: 'owner' }, names('none'))).toEqual({ code: 'noOwner' })
    expect(checkWho({ by: 'territory' }, names())).toBe(null)
    const none = new Catalogue({ ...catalogue.data, territories: [] })
    expect(checkWho({ by: 'territory' }, { catalogue: none, object: 'deal' })).toEqual({ code: 'noTerritories' })
  })

  it('is said in words once it is chosen, and reads again as it was written', () => {
    const some: readonly Who[] = [
      { by: 'owner' },
      { by: 'person', person: 'rosa' },
      { by: 'turn', people: ['rosa', 'jude'] },
      { by: 'load', people: ['rosa'] },
      { by: 'territory' },
      { by: 'queue', team: 'Hire' },
      { by: 'everyone', team: 'Hire' },
    ]
    expect(some.map(({ by }) => by)).toEqual(WHO_WAYS)
    expect(some.map((who) => sayWho(who, 'deal', catalogue))).toEqual([
      'the deal’s owner',
      'Rosa Amara',
      'the next in turn of Rosa Amara and Jude Okell',
      'the least busy of Rosa Amara',
      'the person who covers the territory',
      'the Hire queue',
      'everyone in Hire',
    ])
    for (const who of some) expect(zWho.parse(JSON.parse(JSON.stringify(who)))).toEqual(who)
    expect(sayWho({ by: 'owner' }, 'none', catalogue)).toBe(null)
    expect(sayWho({ by: 'turn', people: [] }, 'deal', catalogue)).toBe(null)
    expect(teamsOf(catalogue)).toEqual(['Hire', 'Operations', 'Purchase'])
    expect(teamsOf(withPeople({ ines: { active: false }, maren: { team: '' } }))).toEqual(['Hire', 'Purchase'])
  })
})
