import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { stringify } from 'yaml'
import { main } from '../cli/main'
import { caseOf, DATED } from './dated'

interface Printed {
  readonly zone: string
  readonly runs: readonly { readonly at: string; readonly utc: string }[]
}

let folder = ''
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'sky-lever-cases-'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** The command line on some files: its exit code, what it printed and what it complained of. */
function skylever(...args: readonly string[]): { readonly code: number; readonly out: string; readonly wrong: string } {
  let [out, wrong] = ['', '']
  const code = main(
    args,
    (text) => {
      out += text
    },
    (text) => {
      wrong += text
    },
  )
  return { code, out, wrong }
}

/** What the platform's own zone data says an instant is by the clock of a zone. */
const byIntl = (utc: number, zone: string): string => {
  const parts = new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
  }).formatToParts(utc)
  const part = (type: string): string => parts.find((one) => one.type === type)?.value ?? ''
  return `${part('year')}-${part('month')}-${part('day')}T${part('hour')}:${part('minute')}`
}

describe('dated cases through the command line', () => {
  it.each(DATED.map((row, i) => [row.name, row, i] as const))('%s', (_name, row, i) => {
    const file = join(folder, `${i}.yaml`)
    writeFileSync(file, stringify(caseOf(row)))
    const { code, out, wrong } = skylever('rehearse', file)
    expect(wrong).toBe('')
    expect(code).toBe(0)
    const { zone, runs } = JSON.parse(out) as Printed
    for (const { at, utc } of runs) {
      expect(byIntl(Date.parse(utc), zone)).toBe(at)
      // Of a time that comes twice it is the first: half an hour and an hour before it was another time.
      for (const before of [1_800_000, 3_600_000]) expect(byIntl(Date.parse(utc) - before, zone)).not.toBe(at)
    }
  })

  it('there are enough of them', () => expect(DATED.length).toBeGreaterThanOrEqual(60))
})

describe('the files in this folder', () => {
  it.each(readdirSync('cases').filter((file) => file.endsWith('.yaml')))('%s comes out as it expects', (file) => {
    const { code, wrong } = skylever('rehearse', join('cases', file), '--quiet')
    expect([wrong, code]).toEqual(['', 0])
  })
})

describe('the command line', () => {
  it('says what did not come as expected, and fails', () => {
    const file = join(folder, 'wrong.yaml')
    const [row] = DATED
    if (!row) throw new Error('no row')
    writeFileSync(file, stringify(caseOf({ ...row, starts: ['2027-03-01T08:30'] })))
    expect(skylever('rehearse', file, '--quiet')).toEqual({
      code: 1,
      out: '',
      wrong: `${file}: start 1: expected deal 1 at 2027-03-01T08:30, got deal 1 at 2027-02-28T08:30\n`,
    })
  })

  it.each([
    ['no such file', null, 'cannot be read'],
    ['what is no YAML', 'format: [', 'Line 1'],
    ['an unknown part', 'format: 1\nwhatever: 2\n', 'name'],
    [
      'an unknown zone',
      stringify({ ...caseOf(DATED[0] ?? ({} as never)), zone: 'Europe/Nowhere' }),
      'zone: is not a time zone of the IANA database',
    ],
    [
      'a moment that is none',
      stringify({ ...caseOf(DATED[0] ?? ({} as never)), start: 'soon' }),
      'start: “soon” is not a date and time',
    ],
    [
      'a field that is not there',
      stringify({ ...caseOf(DATED[0] ?? ({} as never)), records: [{ record: 'deal 1', values: { gone: 1 } }] }),
      'records: deal 1, gone',
    ],
    [
      'a rule that is not finished',
      stringify(
        caseOf({
          ...(DATED[0] ?? ({} as never)),
          trigger: {
            kind: 'atDate',
            params: {
              field: null,
              side: 'on',
              amount: { count: 0, unit: 'days' },
              minute: 510,
              zone: 'workspace',
              every: 'once',
              leap: 'feb28',
              months: [],
              weekdays: [],
            },
          },
        }),
      ),
      'rules: one month before 31 March: Choose a date field',
    ],
  ])('refuses %s by place and reason', (_what, text, reason) => {
    const file = join(folder, `${_what}.yaml`)
    if (text !== null) writeFileSync(file, text)
    const { code, wrong } = skylever('rehearse', file)
    expect(code).toBe(2)
    expect(wrong).toContain(reason)
  })

  it('says how it is used, and prints its schema', () => {
    expect(skylever()).toMatchObject({ code: 2, wrong: expect.stringContaining('skylever rehearse FILE') as string })
    expect(skylever('rehearse', 'x', '--loud')).toMatchObject({
      code: 2,
      wrong: expect.stringContaining('no option --loud') as string,
    })
    expect(JSON.parse(skylever('schema').out)).toMatchObject({ $id: 'urn:sky-lever:case:1', type: 'object' })
  })

  it('runs as a program of its own, with all that its rules may need', () => {
    const recurring = DATED.find(({ name }) => name === 'every Thursday, or the working day behind it')
    if (!recurring) throw new Error('no such case')
    const file = join(folder, 'own.yaml')
    writeFileSync(file, stringify(caseOf(recurring)))
    // In here everything that others have loaded is at hand: that it is at hand there only a process shows.
    const ran = spawnSync('node', ['cli/skylever.mjs', 'rehearse', file, 'cases/days-past.yaml', '--quiet'], {
      encoding: 'utf8',
    })
    expect([ran.stderr, ran.status]).toEqual(['', 0])
  })
})
