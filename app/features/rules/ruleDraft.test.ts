import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { blankRule, type RuleDocument } from '#core/rules/document'
import { ruleDraft, type DraftPorts } from './ruleDraft'

const named = (name: string): RuleDocument => blankRule('deal', name)
const LONG_MS = 10_000

/** A server with one draft, a browser's storage, and a draft being written over both. */
function setting(given: { readonly editable?: boolean; readonly kept?: { rev: number; document: RuleDocument } } = {}) {
  const server = { rev: 1, document: named('as saved'), down: false, leaving: false, weighed: [] as string[], told: 0 }
  const kept = new Map<string, string>()
  if (given.kept) kept.set('sky-lever-rule-7', JSON.stringify(given.kept))
  const ports: DraftPorts = {
    async save(document, rev) {
      if (server.down) throw new Error('no connection')
      if (rev !== server.rev) throw new Error('conflict')
      server.document = document
      server.rev++
      return { rev: server.rev }
    },
    refused(error) {
      server.told++
      return error instanceof Error && error.message === 'conflict'
    },
    async evidence(document) {
      server.weighed.push(document.name)
      return null
    },
    preflight: async () => [],
    storage: {
      getItem: (key) => kept.get(key) ?? null,
      setItem: (key, value) => void kept.set(key, value),
      removeItem: (key) => void kept.delete(key),
    },
    leaving: () => server.leaving,
  }
  const open = () => ruleDraft(7, { draft: server.document, rev: server.rev }, given.editable ?? true, ports)
  return { server, kept, open, draft: open() }
}

beforeEach(() => {
  vi.useFakeTimers()
})
// Tests share their modules and their globals: whoever comes next wants the real ones.
afterEach(() => {
  vi.useRealTimers()
})
const wait = () => vi.advanceTimersByTimeAsync(LONG_MS)

describe('saving', () => {
  it('shows an edit at once and saves it soon after, several as one', async () => {
    const { server, draft } = setting()
    draft.set(named('a'))
    draft.set(named('ab'))
    expect([draft.document.value.name, draft.save.value, server.rev]).toEqual(['ab', 'waiting', 1])
    await wait()
    expect([draft.save.value, server.document.name, server.rev]).toEqual(['saved', 'ab', 2])
  })

  it('saves what was written while a saving was under way after it', async () => {
    const { server, draft } = setting()
    draft.set(named('first'))
    const settled = draft.settle()
    draft.set(named('second'))
    expect(await settled).toBe(true)
    await wait()
    expect([server.document.name, draft.save.value, draft.rev()]).toEqual(['second', 'saved', 3])
  })

  it('writes nothing where it may only be read', async () => {
    const { server, draft } = setting({ editable: false })
    draft.set(named('other'))
    await wait()
    expect([draft.document.value.name, server.rev]).toEqual(['as saved', 1])
  })

  it('weighs what stands there last, not each step on the way', async () => {
    const { server, draft } = setting()
    draft.set(named('a'))
    draft.set(named('ab'))
    await wait()
    expect(server.weighed).toEqual(['ab'])
  })
})

describe('somebody else saves meanwhile', () => {
  it('is a conflict: what is written stays here and goes over nobody’s work', async () => {
    const { server, draft, kept } = setting()
    server.rev = 5
    server.document = named('theirs')
    draft.set(named('mine'))
    await wait()
    expect([draft.save.value, server.document.name, server.told]).toEqual(['conflict', 'theirs', 1])
    draft.set(named('mine still'))
    await wait()
    expect([draft.document.value.name, draft.save.value, server.document.name]).toEqual([
      'mine still',
      'conflict',
      'theirs',
    ])
    expect(await draft.settle()).toBe(false)
    expect(kept.get('sky-lever-rule-7')).toContain('mine still')
  })
})

describe('no connection', () => {
  it('says so, keeps what was written, and saves it when asked again', async () => {
    const { server, draft, kept } = setting()
    server.down = true
    draft.set(named('mine'))
    await wait()
    expect([draft.save.value, draft.document.value.name]).toEqual(['offline', 'mine'])
    expect(kept.get('sky-lever-rule-7')).toContain('mine')
    expect(await draft.settle()).toBe(false)
    server.down = false
    expect(await draft.settle()).toBe(true)
    expect([server.document.name, kept.size]).toEqual(['mine', 0])
  })
})

describe('undo', () => {
  it('goes back edit by edit and forward again, and each is saved', async () => {
    const { server, draft } = setting()
    for (const name of ['a', 'b', 'c']) draft.set(named(name))
    draft.undo()
    draft.undo()
    expect(draft.document.value.name).toBe('a')
    draft.redo()
    await wait()
    expect([draft.document.value.name, server.document.name]).toEqual(['b', 'b'])
    draft.set(named('d'))
    draft.redo()
    expect(draft.document.value.name).toBe('d')
  })

  it('does nothing before the first edit and after the last', () => {
    const { draft } = setting()
    draft.undo()
    draft.redo()
    expect([draft.document.value.name, draft.save.value]).toEqual(['as saved', 'saved'])
  })
})

describe('reload', () => {
  it('takes up what was not saved yet, as an edit that can be undone', async () => {
    const { server, draft } = setting({ kept: { rev: 1, document: named('unsaved') } })
    draft.takeUp()
    expect(draft.document.value.name).toBe('unsaved')
    await wait()
    expect(server.document.name).toBe('unsaved')
    draft.undo()
    expect(draft.document.value.name).toBe('as saved')
  })

  it('keeps both where somebody has saved since: theirs is taken when she says so, and undo brings hers back', async () => {
    const { server, draft, kept } = setting({ kept: { rev: 0, document: named('mine') } })
    draft.takeUp()
    expect([draft.document.value.name, draft.save.value, kept.size]).toEqual(['mine', 'conflict', 1])
    draft.yieldTo(named('theirs'), server.rev)
    expect([draft.document.value.name, draft.save.value, kept.size]).toEqual(['theirs', 'saved', 0])
    draft.undo()
    expect(await draft.settle()).toBe(true)
    expect(server.document.name).toBe('mine')
  })

  it('drops what is the same as what stands there', () => {
    const { draft, kept } = setting({ kept: { rev: 0, document: named('as saved') } })
    draft.takeUp()
    expect([draft.save.value, kept.size]).toEqual(['saved', 0])
  })

  it('shows an edit whose saving overtook the reload, and goes on from there', async () => {
    const { server, draft, open, kept } = setting()
    draft.set(named('just typed'))
    // The new page was made from what the server held; then the old page’s saving came through.
    const reloaded = open()
    server.leaving = true
    expect(await draft.settle()).toBe(true)
    server.leaving = false
    reloaded.takeUp()
    expect([reloaded.document.value.name, reloaded.save.value, kept.size]).toEqual(['just typed', 'saved', 0])
    reloaded.set(named('and more'))
    expect(await reloaded.settle()).toBe(true)
    expect(server.document.name).toBe('and more')
  })

  it('goes over nobody’s work when somebody saved after that', async () => {
    const { server, draft, open } = setting()
    draft.set(named('just typed'))
    const reloaded = open()
    server.leaving = true
    await draft.settle()
    server.rev++
    server.document = named('theirs')
    reloaded.takeUp()
    reloaded.set(named('and more'))
    expect([await reloaded.settle(), server.document.name]).toEqual([false, 'theirs'])
  })
})
