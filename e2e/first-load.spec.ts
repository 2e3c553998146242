import { existsSync, readFileSync, statSync } from 'node:fs'
import { deals, expect, test } from './app'

/** What a browser fetches of scripts before a page is ready, compressed as it is sent to most of them, in bytes. */
const SCRIPTS_MOST = 250_000

const VIEWS: readonly (readonly [name: string, path: string | null, component: string])[] = [
  ['the day sheet', '/day-sheet?person=jude', 'DaySheetScreen'],
  ['a board', '/boards/hp', 'BoardScreen'],
  ['records', '/records/deals', 'RecordsScreen'],
  ['a record', null, 'RecordScreen'],
  ['rules', '/rules', 'RulesScreen'],
  ['a rule', '/rules/3', 'RuleSheet'],
  ['ahead', '/ahead', 'AheadScreen'],
  ['the journal', '/journal', 'JournalScreen'],
]

/** The scripts that the page itself names: what it runs, and what that is known to import. */
const scriptsOf = (html: string): readonly string[] => [
  ...new Set(
    [...html.matchAll(/<(?:script|link)\b[^>]*>/g)].flatMap(([tag]) =>
      /^<script|rel="modulepreload"/.test(tag) ? (/(?:src|href)="(\/_nuxt\/[^"]+\.js)"/.exec(tag)?.slice(1) ?? []) : [],
    ),
  ),
]

/** As it is sent: small files are sent as they are. */
function sentBytes(script: string): number {
  const file = `.output/public${script}`
  return statSync(existsSync(`${file}.br`) ? `${file}.br` : file).size
}

for (const [name, path, component] of VIEWS) {
  test(`the first screen of ${name} takes scripts of ${SCRIPTS_MOST / 1000} kB at the most`, async ({ request }) => {
    const address = path ?? `/records/deals/${(await deals(request, { stage: 'hp-quoted' }))[0]?.id}`
    const html = await (await request.get(address)).text()
    const scripts = scriptsOf(html)
    // A page whose own script is not named by it gets it late, and would seem small.
    const own = scripts.filter((one) => readFileSync(`.output/public${one}`, 'utf8').includes(`__name:"${component}"`))
    expect(own, `the script of ${component}`).toHaveLength(1)
    const bytes = scripts.map(sentBytes).reduce((a, b) => a + b, 0)
    console.log(`      ${name}: ${Math.round(bytes / 1000)} kB in ${scripts.length} files`)
    expect(bytes).toBeLessThan(SCRIPTS_MOST)
    // Editors, charts and readers of files come when they are used.
    expect(html).not.toMatch(/rel="prefetch"[^>]*as="script"/)
  })
}

test('files and answers are sent in what the client takes', async ({ request }) => {
  const html = await (await request.get('/day-sheet')).text()
  const [script = ''] = scriptsOf(html)
  for (const [path, encoding] of [
    [script, 'br'],
    [script, 'gzip'],
    ['/api/v1/rules', 'br'],
    ['/day-sheet', 'gzip'],
  ] as const) {
    const answer = await request.get(path, { headers: { 'accept-encoding': encoding } })
    expect([path, answer.status(), answer.headers()['content-encoding']]).toEqual([path, 200, encoding])
    expect(answer.headers().vary?.toLowerCase()).toContain('accept-encoding')
  }
})
