import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readCsv } from './csv/read'
import { CODE_PAGES, readTextFile, type CodePage } from './text-file'

/** The bytes of a text in a code page: each byte stands for one letter, so that the table can be turned round. */
function bytesOf(text: string, page: CodePage): Uint8Array {
  const table = new Map(
    Array.from({ length: 256 }, (_, byte) => [new TextDecoder(page).decode(new Uint8Array([byte])), byte] as const),
  )
  return Uint8Array.from([...text].map((letter) => table.get(letter) ?? 0x3f))
}
const utf16 = (text: string, mark: boolean, big = false): Uint8Array => {
  const units = [...(mark ? '\ufeff' : ''), ...text].flatMap((letter) =>
    letter.split('').map((unit) => unit.charCodeAt(0)),
  )
  return Uint8Array.from(units.flatMap((unit) => (big ? [unit >> 8, unit & 255] : [unit & 255, unit >> 8])))
}
const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text)

const SHEET = 'Name;Stage;Amount\r\nZürcher Bäckerei;Quoted;1200\r\nŁódź Chłodnia;Sized;5\r\n'

describe('the text of a file', () => {
  it('is the same rows, whichever way a spreadsheet saved the sheet', () => {
    const rows = (bytes: Uint8Array) => {
      const { headings, rows: found } = readCsv(readTextFile(bytes).text)
      return { headings, rows: found }
    }
    const plain = rows(utf8(SHEET))
    expect(plain.rows.map((row) => row.cells[0])).toEqual(['Zürcher Bäckerei', 'Łódź Chłodnia'])
    expect(rows(utf8(`\ufeff${SHEET}`))).toEqual(plain)
    expect(rows(utf16(SHEET.replaceAll(';', '\t'), true))).toEqual(plain)
    expect(rows(utf16(SHEET, true, true))).toEqual(plain)
    expect(rows(utf16(SHEET, false))).toEqual(plain)
    expect(rows(bytesOf(SHEET, 'windows-1250'))).toEqual(plain)
  })

  it.each([
    ['windows-1250', 'Nazwa;Miasto\nChłodnia Żuraw;Łódź\nMięso i ryby;Kraków'],
    ['windows-1250', 'Název;Město\nPekařství Růžička;Plzeň'],
    ['windows-1250', 'Név;Város\nHűtőház;Győr'],
    ['windows-1252', 'Name;Ort\nBäckerei Größl;Zürich\nMüller & Söhne;Köln'],
    ['windows-1252', 'Nome;Cidade\nPadaria São João;Évora\nRefrigeração;Guimarães'],
    ['windows-1252', 'Nom;Ville\nBoulangerie Théâtre;Besançon\nCrème fraîche;Orléans'],
    ['windows-1252', 'Navn;By\nBageri Ærø;Århus\nKøl & Frys;Ringkøbing'],
    ['windows-1252', 'Nombre;Ciudad\nPanadería Peña;Logroño'],
  ] as const)('of %s is guessed by its letters: %s', (page, text) => {
    const read = readTextFile(bytesOf(text, page))
    expect(read).toMatchObject({ text, encoding: page })
  })

  it('can be chosen, with what both ways make of the lines that differ', () => {
    const bytes = bytesOf('Name\nPlain\nBêla', 'windows-1252')
    expect(readTextFile(bytes).samples).toEqual({ 'windows-1252': 'Bêla', 'windows-1250': 'Bęla' })
    expect(readTextFile(bytes, 'windows-1250')).toMatchObject({ text: 'Name\nPlain\nBęla', encoding: 'windows-1250' })
    // What both read alike is asked of nobody.
    expect(readTextFile(bytesOf('Käse', 'windows-1252')).samples).toBeNull()
  })

  it('in UTF-8 is never taken for anything else, and of any bytes there is some', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', minLength: 1 }), (text) => {
        fc.pre(!text.startsWith('\ufeff') && !text.includes('\0'))
        expect(readTextFile(utf8(text))).toMatchObject({ text, encoding: 'utf-8' })
      }),
    )
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), fc.constantFrom(null, ...CODE_PAGES), (bytes, page) => {
        expect(typeof readTextFile(bytes, page).text).toBe('string')
      }),
    )
  })
})
