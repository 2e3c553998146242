import { describe, expect, it } from 'vitest'
import type { Value } from '../../language/value'
import type { Template } from '../../messages/template'
import { document } from '../../testing/rules'
import { catalogue, moment } from '../../testing/setting'
import { Catalogue } from '../../fields/catalogue'
import { STEPS } from '../steps'
import { preflight } from '.'
import type { PreflightData } from './finding'
import { counting, found, look, NO_DATA, reviewed, when } from './preflight.setting'

const message = (given: object = {}) =>
  document({
    when,
    then: [['sendMessage', { ...STEPS.sendMessage.start, subject: 'Your quote', body: 'Here it is.', ...given }]],
  })
const kinds = (...given: Parameters<typeof found>) => found(...given).filter((line) => !line.includes('nobody'))

describe('messages', () => {
  it('says the reason for which one goes at any hour', () => {
    const urgent = message({ urgent: ' the cold room is warm ' })
    expect(kinds(urgent)).toEqual(['info anyHour s1: This message goes at any hour'])
    expect(look(urgent)[0]?.why).toContain('“the cold room is warm”')
    expect(kinds(message({ urgent: '  ' }))).toEqual([])
  })

  it.each([
    ['mail', {}, 'email'],
    ['text', { channel: 'text' }, 'phone'],
  ])('says how many have no address for %s', (_channel, given, field) => {
    const asked: string[] = []
    const data: Partial<PreflightData> = {
      count: (_object, group) => {
        const text = JSON.stringify(group)
        asked.push(text)
        return text.includes('preflight-address')
          ? { count: 30, first: { id: 7, name: 'Two rooms' } }
          : text.includes('preflight')
            ? { count: 0, first: null }
            : { count: 100, first: { id: 1, name: 'One room' } }
      },
    }
    expect(kinds(message(given), data)).toEqual(['warning noAddress s1: Nothing can be sent to 30%'])
    expect(asked.find((text) => text.includes('preflight-address'))).toContain(`"field":"${field}"`)
    expect(kinds(message(given), counting(0))).toEqual([])
  })

  it('does not ask for one number where any other will do', () => {
    expect(kinds(message({ channel: 'text', otherPhone: true }), counting(10))).toEqual([])
  })

  it('says that nothing is sent where a text has a gap', () => {
    const data: Partial<PreflightData> = {
      count: (_object, group) =>
        JSON.stringify(group).includes('preflight-empty')
          ? { count: 3, first: { id: 1, name: 'Two rooms' } }
          : { count: JSON.stringify(group).includes('preflight') ? 0 : 10, first: { id: 1, name: 'Two rooms' } },
    }
    const [finding] = look(message({ body: 'On {{deal.siteVisit}} and {{deal.siteVisit}}' }), data)
    expect(finding).toMatchObject({ kind: 'emptyMerges', param: 'body' })
    expect(finding?.why).toContain('Nothing would be sent to them: say what to print instead.')
    expect(kinds(message({ body: 'On {{deal.siteVisit or "the day"}}' }), data)).toEqual([])
  })

  it('names the languages that a template in several languages lacks', () => {
    const variant = (language: string) => ({ language, subject: 'Hi', text: 'Hello' })
    const template = (...languages: string[]): Template => ({
      id: 1,
      version: 1,
      archived: false,
      name: 'Welcome',
      folder: '',
      channel: 'mail',
      variants: languages.map(variant) as Template['variants'],
    })
    const spoken = (...languages: string[]): Partial<PreflightData> => ({
      sample: (object) =>
        object === 'contact'
          ? languages.map((language, i) => ({
              id: i,
              name: `C${i}`,
              values: { language } as Record<string, Value>,
              linked: () => [],
            }))
          : [],
    })
    const lines = (of: Template, data: Partial<PreflightData>) => {
      const rule = reviewed(message({ template: 1, subject: '', body: '' }))
      const own = new Catalogue({ ...catalogue.data, templates: [of] })
      return preflight(rule, { catalogue: own, moment, data: { ...NO_DATA, ...data }, rules: [rule] })
        .filter(({ kind }) => kind === 'otherLanguage')
        .map(({ text, why }) => `${text}. ${why}`)
    }
    const some = spoken('english', 'english', 'english', 'polish', 'french', 'french')
    expect(lines(template('', 'Polish'), some)).toEqual([
      'Template “Welcome” has no text in French. 2 contacts have this language and would get the text for everyone.',
    ])
    expect(lines(template('', 'Polish', 'French'), some)).toEqual([])
    // Whoever wrote one text has meant it for everyone.
    expect(lines(template(''), some)).toEqual([])
  })
})
