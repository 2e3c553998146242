import type { H3Event } from 'h3'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { larkmoor } from '../testing/workspace'
import { once } from './once'
import { ProblemError } from './problem'

interface Fake {
  readonly method: string
  readonly path: string
  readonly headers: Readonly<Record<string, string>>
  readonly answered: Record<string, unknown>
}
beforeEach(() => {
  vi.stubGlobal('getHeader', (event: Fake, name: string) => event.headers[name])
  vi.stubGlobal('getResponseHeader', (event: Fake, name: string) => event.answered[name])
  vi.stubGlobal('setResponseHeader', (event: Fake, name: string, value: unknown) => {
    event.answered[name] = value
  })
})
afterEach(() => vi.unstubAllGlobals())

function asked(key: string | undefined, path = '/api/v1/rules'): H3Event & Fake {
  const headers = key === undefined ? {} : { 'idempotency-key': key }
  return { method: 'POST', path, headers, answered: {} } as unknown as H3Event & Fake
}
const status = (work: () => unknown): number | null => {
  try {
    work()
    return null
  } catch (error) {
    if (error instanceof ProblemError) return error.status
    throw error
  }
}
/** Work that creates something each time it is done. */
function creating() {
  const { workspace } = larkmoor()
  const made: number[] = []
  const create = (): { id: number } => {
    const { ref } = workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized' }, [], 'ines')
    made.push(ref.id)
    return { id: ref.id }
  }
  const ask = (event: H3Event, given: unknown = {}, person = 'ines', work: () => unknown = create) =>
    once(event, workspace, person, 'Records', given, work)
  return { workspace, made, create, ask }
}

describe('a request under a key of its own', () => {
  it('is done once, and answers the same again', () => {
    const { made, ask } = creating()
    const [first, again] = [asked('k1'), asked('k1')]
    const answer = ask(first)
    expect(ask(again)).toEqual(answer)
    expect(made).toHaveLength(1)
    expect([first.answered['idempotent-replay'], again.answered['idempotent-replay']]).toEqual([undefined, 'true'])
  })
  it('without a key, or under another one, is done each time', () => {
    const { made, ask } = creating()
    for (const key of [undefined, undefined, 'k1', 'k2']) ask(asked(key))
    expect(made).toHaveLength(4)
  })
  it('of somebody else is another request', () => {
    const { made, ask } = creating()
    ask(asked('k1'))
    ask(asked('k1'), {}, 'rosa')
    expect(made).toHaveLength(2)
  })
  it('is refused where it asks for something else under the same key', () => {
    const { made, ask } = creating()
    ask(asked('k1'), { name: 'A' })
    expect(status(() => ask(asked('k1'), { name: 'B' }))).toBe(422)
    expect(status(() => ask(asked('k1', '/api/v1/segments'), { name: 'A' }))).toBe(422)
    expect(made).toHaveLength(1)
  })
  it('that was refused may be tried again, and wrote nothing', () => {
    const { workspace, made, create, ask } = creating()
    const fails = (): never => {
      create()
      throw new ProblemError({ code: 'postponeWhere' })
    }
    expect(status(() => ask(asked('k1'), {}, 'ines', fails))).toBe(422)
    const [rolledBack = 0] = made
    expect(workspace.store.records.read({ object: 'deal', id: rolledBack })).toBeNull()
    expect(ask(asked('k1'))).toMatchObject({ id: expect.any(Number) as number })
  })
  it('comes with the tag that it was answered with', () => {
    const { create, ask } = creating()
    const [first, again] = [asked('k1'), asked('k1')]
    ask(first, {}, 'ines', () => {
      first.answered.etag = '"3"'
      return create()
    })
    ask(again)
    expect(again.answered.etag).toBe('"3"')
  })
  it('waits for nobody: the same while it is under way is told so, and afterwards has its answer', async () => {
    const { ask } = creating()
    let finish: (answer: object) => void = () => undefined
    const slow = () => new Promise<object>((resolve) => (finish = resolve))
    const first = ask(asked('k1'), {}, 'ines', slow) as Promise<object>
    expect(status(() => ask(asked('k1')))).toBe(409)
    finish({ id: 7 })
    expect(await first).toEqual({ id: 7 })
    expect(ask(asked('k1'))).toEqual({ id: 7 })
  })
  it('that failed on its way may be tried again', async () => {
    const { ask } = creating()
    const first = ask(asked('k1'), {}, 'ines', () => Promise.reject(new Error('broken'))) as Promise<object>
    await expect(first).rejects.toThrow('broken')
    expect(ask(asked('k1'))).toMatchObject({ id: expect.any(Number) as number })
  })
  it('has a key of 1 to 200 characters', () => {
    const { made, ask } = creating()
    expect(['', 'k'.repeat(201)].map((key) => status(() => ask(asked(key))))).toEqual([400, 400])
    ask(asked('k'.repeat(200)))
    expect(made).toHaveLength(1)
  })
  it('keeps no answer that may hold a password', () => {
    const { workspace, made, create } = creating()
    for (const section of ['Account', 'People'] as const)
      for (let i = 0; i < 2; i++) once(asked('k1'), workspace, 'ines', section, {}, create)
    expect(made).toHaveLength(4)
  })
})
