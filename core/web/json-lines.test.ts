import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addBehind,
  addInside,
  changeLine,
  endOf,
  isNamed,
  readOutline,
  removeLine,
  retypeLine,
  shiftLine,
  writeOutline,
  type JsonOutline,
} from './json-lines'

const ORDER = `{
  "name": "{{deal.name}}",
  "note": "for {{deal.name}}",
  "amount": 12.5,
  "rush": true,
  "agent": null,
  "lines": [
    {
      "unit": "reach-in",
      "count": 2
    },
    "free text"
  ],
  "to": {}
}`
const order = (): JsonOutline => {
  const outline = readOutline(ORDER)
  if (!outline) throw new Error('no JSON')
  return outline
}
const textOf = (outline: JsonOutline): string => {
  const written = writeOutline(outline)
  if ('fault' in written) throw new Error(`${written.fault} in ${written.at}`)
  return written.text
}
const said = (outline: JsonOutline): readonly string[] =>
  outline.lines.map(({ depth, name, type, value }) => `${'.'.repeat(depth)}${name}:${type}:${value}`)

describe('JSON as lines', () => {
  it('has a line for everything that stands in it, each as deep as it stands', () => {
    expect(said(order())).toEqual([
      'name:field:deal.name',
      'note:text:for {{deal.name}}',
      'amount:number:12.5',
      'rush:yesNo:true',
      'agent:nothing:',
      'lines:list:',
      '.:object:',
      '..unit:text:reach-in',
      '..count:number:2',
      '.:text:free text',
      'to:object:',
    ])
    expect(textOf(order())).toBe(ORDER)
  })

  it('keeps whatever JSON there is', () => {
    const holder = fc.oneof(fc.dictionary(fc.string({ minLength: 1 }), fc.jsonValue()), fc.array(fc.jsonValue()))
    fc.assert(
      fc.property(holder, (json) => {
        const text = JSON.stringify(json)
        const outline = readOutline(text)
        fc.pre(!hasOddNames(JSON.parse(text)))
        expect(outline).not.toBe(null)
        const written = writeOutline(outline as JsonOutline)
        if (outline?.lines.length === 0) expect(['', '[]']).toContain((written as { text: string }).text)
        else expect(JSON.parse((written as { text: string }).text)).toEqual(JSON.parse(text))
      }),
      { numRuns: 300 },
    )
  })

  it('is none for a single value and for what is no JSON', () => {
    expect(readOutline('5')).toBe(null)
    expect(readOutline('{"a":}')).toBe(null)
    expect(readOutline('  ')).toEqual({ whole: 'object', lines: [] })
    expect(textOf({ whole: 'object', lines: [] })).toBe('')
    expect(textOf({ whole: 'list', lines: [] })).toBe('[]')
  })

  it.each([
    ['noName', changeLine(order(), 0, { name: '  ' }), 0],
    ['sameName', changeLine(order(), 1, { name: 'name' }), 1],
    ['noNumber', changeLine(order(), 2, { value: '1,5' }), 2],
    ['noNumber', changeLine(order(), 2, { value: '1e999' }), 2],
    ['noNumber', changeLine(order(), 2, { value: '' }), 2],
    ['noField', changeLine(order(), 0, { value: '' }), 0],
    ['sameName', changeLine(order(), 8, { name: 'unit' }), 8],
  ] as const)('tells which line keeps it from being JSON: %s', (fault, outline, at) => {
    expect(writeOutline(outline)).toEqual({ at, fault })
  })

  it('asks for names in an object only', () => {
    const outline = order()
    expect(outline.lines.map((_, at) => isNamed(outline, at))).toEqual([
      true,
      true,
      true,
      true,
      true,
      true,
      false,
      true,
      true,
      false,
      true,
    ])
    expect(isNamed({ whole: 'list', lines: [{ depth: 0, name: '', type: 'text', value: '' }] }, 0)).toBe(false)
  })

  it('takes a line behind another one, inside one, and at the end', () => {
    const behind = addBehind(order(), 6)
    expect(behind.at).toBe(9)
    expect(said(behind.outline)[9]).toBe('.:text:')
    const inside = addInside(order(), 6)
    expect(inside.at).toBe(9)
    expect(said(inside.outline)[9]).toBe('..:text:')
    const last = addBehind(order(), -1)
    expect(last.at).toBe(11)
    expect(said(last.outline)[11]).toBe(':text:')
    const intoEmpty = addInside(order(), 10)
    expect(said(intoEmpty.outline)[intoEmpty.at]).toBe('.:text:')
  })

  it('goes with what stands in it', () => {
    expect(said(removeLine(order(), 5))).toEqual([...said(order()).slice(0, 5), 'to:object:'])
    expect(endOf(order().lines, 5)).toBe(10)
  })

  it('keeps a value where the other type can hold it, and loses what cannot stand in it', () => {
    expect(said(retypeLine(order(), 2, 'text'))[2]).toBe('amount:text:12.5')
    expect(said(retypeLine(order(), 2, 'yesNo'))[2]).toBe('amount:yesNo:true')
    expect(said(retypeLine(order(), 5, 'text'))).toHaveLength(order().lines.length - 4)
    expect(said(retypeLine(order(), 5, 'object'))).toHaveLength(order().lines.length)
    expect(retypeLine(order(), 99, 'text')).toEqual(order())
  })

  it('changes places with its neighbour, with all that stands in both', () => {
    const down = shiftLine(order(), 5, 1)
    expect(down && said(down.outline).slice(5)).toEqual([
      'to:object:',
      'lines:list:',
      '.:object:',
      '..unit:text:reach-in',
      '..count:number:2',
      '.:text:free text',
    ])
    expect(down?.at).toBe(6)
    const back = down && shiftLine(down.outline, down.at, -1)
    expect(back?.outline).toEqual(order())
    expect(back?.at).toBe(5)
    // The first and the last in their holder have none on that side.
    expect(shiftLine(order(), 0, -1)).toBe(null)
    expect(shiftLine(order(), 6, -1)).toBe(null)
    expect(shiftLine(order(), 9, 1)).toBe(null)
    expect(shiftLine(order(), 10, 1)).toBe(null)
  })

  it('says the same again, whatever lines change places', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(10), fc.constantFrom(-1 as const, 1 as const)), { maxLength: 12 }),
        (moves) => {
          let outline = order()
          for (const [at, by] of moves) {
            const moved = shiftLine(outline, at, by)
            if (!moved) continue
            outline = moved.outline
            expect(shiftLine(outline, moved.at, by === 1 ? -1 : 1)?.at).toBe(at)
          }
          expect(JSON.parse(textOf(outline)).lines).toHaveLength(2)
          expect(said(outline).toSorted()).toEqual(said(order()).toSorted())
        },
      ),
    )
  })
})

/** Names that are blank, or the same but for blanks around them: an entry of a person never holds those. */
function hasOddNames(json: unknown): boolean {
  if (typeof json !== 'object' || json === null) return false
  const names = Array.isArray(json) ? [] : Object.keys(json)
  return names.some((name) => name.trim() !== name || name === '') || Object.values(json).some(hasOddNames)
}
