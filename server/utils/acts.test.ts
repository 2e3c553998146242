import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { ROLES } from '../../core/fields/field'
import { ROUTES } from './acts'
import { ACTS } from '../../core/access/acts'

const API = 'server/api/v1'
/** What is asked with a body because an address could not hold it; it changes nothing. */
const ASKING = [
  'POST /evidence',
  'POST /preflight',
  'POST /tables/',
  'POST /rehearsals',
  'POST /rules/:id/forecasts',
  'POST /cases/runs',
  'POST /derived-fields/preview',
  'POST /scorecards/preview',
  'POST /rates/preview',
  'POST /message-previews',
  'POST /web-request-previews',
]

/** What a file of the API answers to, by its name: `records/[object]/[id].patch.ts` is `PATCH /records/:object/:id`. */
function routeOf(file: string): string {
  const [, path = '', method = ''] = /^(.*)\.(get|post|put|patch|delete)\.ts$/.exec(file) ?? []
  return `${method.toUpperCase()} /${path}`.replace(/\[(\w+)\]/g, ':$1').replace(/\/index$/, '')
}

const files = readdirSync(API, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.ts'))

describe('the table of routes', () => {
  it('has a line for every file of the API, and no other', () => {
    expect(files.map(routeOf).sort()).toEqual(Object.keys(ROUTES).sort())
  })

  it.each(files)('%s asks for its own line', (file) => {
    const text = readFileSync(join(API, file), 'utf8')
    expect(text).toContain(`'${routeOf(file)}'`)
    for (const other of Object.keys(ROUTES)) if (other !== routeOf(file)) expect(text).not.toContain(`'${other}'`)
  })

  it('lets nobody change anything who only looks on', () => {
    for (const act of ACTS.viewer) expect(['enter', 'self', 'read', 'readRules']).toContain(act)
    for (const [route, act] of Object.entries(ROUTES)) {
      const changes = !route.startsWith('GET ') && !ASKING.some((one) => route.startsWith(one))
      if (changes) expect(['work', 'build', 'self', 'enter']).toContain(act)
    }
  })

  it('keeps rules from owners, and gives the specialist everything', () => {
    expect(ACTS.owner).not.toContain('readRules')
    expect(ACTS.owner).not.toContain('build')
    for (const role of ROLES) for (const act of ACTS[role]) expect(ACTS.specialist).toContain(act)
  })
})
