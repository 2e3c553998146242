import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useNotices } from '../stores/notices'
import { attempt, problemOf, read, sayApiProblem, send } from './api'

interface Asked {
  readonly path: string
  readonly method: string
  readonly body: unknown
  readonly headers: Readonly<Record<string, string>>
}
let asked: Asked[]
/** What the server answers, one after the other; an error is thrown. */
let answers: unknown[]
const reload = vi.fn()

beforeEach(() => {
  asked = []
  answers = []
  reload.mockReset()
  setActivePinia(createPinia())
  vi.stubGlobal('reloadNuxtApp', reload)
  vi.stubGlobal('$fetch', (path: string, options: Omit<Asked, 'path'>) => {
    asked.push({ path, ...options })
    const answer = answers.shift()
    if (!(answer instanceof Error)) return Promise.resolve(answer)
    return Promise.reject(Object.assign(answer, { request: path, options }))
  })
})
afterEach(() => vi.unstubAllGlobals())

const failed = (status: number, data?: object): Error => Object.assign(new Error(`status ${status}`), { status, data })
const lost = (): Error => new Error('fetch failed')
const refusal = (...texts: readonly string[]) =>
  failed(422, {
    status: 422,
    title: 'Not saved',
    detail: 'Nothing was changed.',
    places: texts.map((text) => ({ path: 'x', text })),
  })
const told = () => useNotices().list.map(({ tone, title, text }) => ({ tone, title, text }))

describe('what went wrong', () => {
  it('is what the server said, where it said something', () => {
    expect(problemOf(refusal('Name is required.'))).toEqual({
      status: 422,
      title: 'Not saved',
      detail: 'Nothing was changed.',
      places: [{ path: 'x', text: 'Name is required.' }],
    })
  })
  it('is told as a lost connection, where nothing answered, and else as a failure of ours', () => {
    expect(problemOf(lost())).toMatchObject({ status: 0, title: 'No connection' })
    expect(problemOf(failed(502))).toMatchObject({ status: 502, title: 'Something went wrong', places: [] })
  })
  it('names each place once, and the whole where no place is named', () => {
    const texts = ['Enter a name.', 'Choose a stage.', 'Enter a name.']
    expect(sayApiProblem(problemOf(refusal(...texts)))).toBe('Enter a name. Choose a stage.')
    expect(sayApiProblem(problemOf(refusal()))).toBe('Nothing was changed.')
  })
})

describe('sending', () => {
  it('carries a key of its own each time, and what it was given', async () => {
    answers = [{ id: 1 }, { id: 2 }]
    expect(await send('POST', '/api/v1/rules', { name: 'A' }, { 'if-match': '3' })).toEqual({ id: 1 })
    await send('POST', '/api/v1/rules', { name: 'A' })
    const [first, second] = asked
    expect(first).toMatchObject({ path: '/api/v1/rules', method: 'POST', body: { name: 'A' } })
    expect(first?.headers['if-match']).toBe('3')
    expect(first?.headers['idempotency-key']).toMatch(/^[\da-f]{32}$/)
    expect(second?.headers['idempotency-key']).not.toBe(first?.headers['idempotency-key'])
  })
  it('is done once more under the same key, when the connection breaks off', async () => {
    answers = [lost(), { id: 7 }]
    expect(await send('POST', '/api/v1/rules', { name: 'A' })).toEqual({ id: 7 })
    expect(asked).toHaveLength(2)
    expect(asked[1]).toEqual(asked[0])
  })
  it('is not tried a third time, nor where the server has answered', async () => {
    answers = [lost(), lost(), { id: 7 }]
    await expect(send('DELETE', '/api/v1/rules/3')).rejects.toThrow('fetch failed')
    expect(asked).toHaveLength(2)
    answers = [refusal('Enter a name.'), { id: 7 }]
    await expect(send('POST', '/api/v1/rules', {})).rejects.toThrow('status 422')
    expect(asked).toHaveLength(3)
  })
  it('has no key where a password or a cookie is dealt with: its answer must not be kept', async () => {
    for (const path of ['/api/v1/session', '/api/v1/account/password', '/api/v1/people', '/api/v1/workspace']) {
      answers = [lost(), {}]
      await expect(send('POST', path, { password: 'x' })).rejects.toThrow('fetch failed')
    }
    expect(asked.every(({ headers }) => !('idempotency-key' in headers))).toBe(true)
    expect(asked).toHaveLength(4)
  })
  it('is one, with one answer, where the very same is asked for before it is answered', async () => {
    answers = [{ id: 1 }, { id: 2 }, { id: 3 }]
    const twice = [send('POST', '/api/v1/rules', { name: 'A' }), send('POST', '/api/v1/rules', { name: 'A' })]
    expect(await Promise.all(twice)).toEqual([{ id: 1 }, { id: 1 }])
    expect(asked).toHaveLength(1)
    // Once it is done, the same is another one; and so is another one at the same time.
    const others = [send('POST', '/api/v1/rules', { name: 'A' }), send('POST', '/api/v1/rules', { name: 'B' })]
    expect(await Promise.all(others)).toEqual([{ id: 2 }, { id: 3 }])
  })
  it('can be asked for anew after it was refused, and both who asked are told', async () => {
    answers = [refusal('Enter a name.'), { id: 1 }]
    const twice = [send('POST', '/api/v1/rules', {}), send('POST', '/api/v1/rules', {})]
    expect((await Promise.allSettled(twice)).map(({ status }) => status)).toEqual(['rejected', 'rejected'])
    expect(await send('POST', '/api/v1/rules', {})).toEqual({ id: 1 })
  })
  it('without a body sends none', async () => {
    answers = [{}]
    await send('DELETE', '/api/v1/rules/3')
    expect('body' in (asked[0] ?? {})).toBe(false)
  })
})

describe('attempting', () => {
  it('answers what came of it, and tells nothing', async () => {
    answers = [{ id: 1 }]
    expect(await attempt(() => send('POST', '/api/v1/rules', {}))).toEqual({ id: 1 })
    expect(told()).toEqual([])
  })
  it('tells a failure until the same succeeds, and another success leaves it there', async () => {
    answers = [refusal('The closing time must be after the opening time.'), {}, {}]
    expect(await attempt(() => send('PUT', '/api/v1/hours', {}))).toBeNull()
    const failure = { tone: 'wrong', title: 'Not saved', text: 'The closing time must be after the opening time.' }
    expect(told()).toEqual([failure])
    await attempt(() => send('PUT', '/api/v1/people/rosa', {}))
    expect(told()).toEqual([failure])
    await attempt(() => send('PUT', '/api/v1/hours', {}))
    expect(told()).toEqual([])
  })
  it('tells the latest of several failures of one thing, once', async () => {
    answers = [refusal('Too early.'), refusal('Too late.')]
    await attempt(() => send('PUT', '/api/v1/hours', {}))
    await attempt(() => send('PUT', '/api/v1/hours', {}))
    expect(told().map(({ text }) => text)).toEqual(['Too late.'])
  })
  it('loads the page anew where the cookie is void, and says nothing', async () => {
    answers = [failed(401)]
    expect(await attempt(() => send('POST', '/api/v1/rules', {}))).toBeNull()
    expect(reload).toHaveBeenCalledOnce()
    expect(told()).toEqual([])
  })
  it('tells an error of ours that is about no request too', async () => {
    expect(await attempt(() => Promise.reject(failed(500)))).toBeNull()
    expect(told()).toMatchObject([{ title: 'Something went wrong' }])
  })
})

it('reading asks with the query it was given', async () => {
  answers = [{ rows: [] }]
  expect(await read('/api/v1/find', { words: 'lund' })).toEqual({ rows: [] })
  expect(asked[0]).toMatchObject({ path: '/api/v1/find', query: { words: 'lund' } })
})
