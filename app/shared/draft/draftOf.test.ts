import fc from 'fast-check'
import { nextTick, shallowRef } from 'vue'
import { describe, expect, it } from 'vitest'
import { draftOf } from './draftOf'

interface Item {
  readonly id: number
  readonly text: string
}

function setting() {
  const saved = shallowRef<Item>({ id: 1, text: 'Hello' })
  const draft = draftOf(
    () => ({ text: saved.value.text }),
    () => saved.value.id,
  )
  return {
    draft,
    write: (text: string) => (draft.written.value = { text }),
    /** Somebody saves; everybody hears of it. */
    comes: async (text: string, id = saved.value.id) => {
      saved.value = { id, text }
      await nextTick()
    },
    state: () => [draft.written.value.text, draft.dirty.value, draft.elsewhere.value],
  }
}

describe('what is written over something saved', () => {
  it('stays as it is written when the same comes again', async () => {
    const { write, comes, state } = setting()
    write('Hello there')
    await comes('Hello')
    expect(state()).toEqual(['Hello there', true, false])
  })

  it('stays as it is written when somebody else saves it, and that is told', async () => {
    const { draft, write, comes, state } = setting()
    write('Hello there')
    await comes('Good day')
    expect(state()).toEqual(['Hello there', true, true])
    draft.take()
    expect(state()).toEqual(['Good day', false, false])
  })

  it('takes over what somebody else saves where nothing is written', async () => {
    const { comes, state } = setting()
    await comes('Good day')
    expect(state()).toEqual(['Good day', false, false])
  })

  it('is no news where somebody else saved the very same', async () => {
    const { write, comes, state } = setting()
    write('Good day')
    await comes('Good day')
    expect(state()).toEqual(['Good day', false, false])
  })

  it('is another one when that is chosen', async () => {
    const { write, comes, state } = setting()
    write('Hello there')
    await comes('Thank you', 2)
    expect(state()).toEqual(['Thank you', false, false])
  })

  it('is saved, and nothing is left to save, even where it comes back tidied up', async () => {
    const { draft, write, comes, state } = setting()
    write(' Hello there ')
    await draft.save(async ({ text }) => {
      await comes(text.trim())
      return true
    })
    expect(state()).toEqual(['Hello there', false, false])
  })

  it('is nothing to ask about while it is being saved', async () => {
    const { draft, write, state } = setting()
    write('Hello there')
    let go = (): void => undefined
    const saving = draft.save(() => new Promise<null>((resolve) => (go = () => resolve(null))))
    expect(state()).toEqual(['Hello there', false, false])
    write('Hello there, you')
    expect(draft.dirty.value).toBe(true)
    go()
    await saving
  })

  it('goes on with what was written while it was saved', async () => {
    const { draft, write, comes, state } = setting()
    write('Hello there')
    await draft.save(async ({ text }) => {
      write('Hello there, you')
      await comes(text)
      return true
    })
    expect(state()).toEqual(['Hello there, you', true, false])
    // What another one saves behind that is news again.
    await comes('Good day')
    expect(state()).toEqual(['Hello there, you', true, true])
  })

  it('is one’s own also where it comes back in the last moment, and replaces what others had saved', async () => {
    const { draft, write, comes, state } = setting()
    write('Hello there')
    await comes('Good day')
    expect(draft.elsewhere.value).toBe(true)
    await draft.save(({ text }) => {
      write('Hello there, you')
      void comes(text)
      return Promise.resolve(true)
    })
    await nextTick()
    expect(state()).toEqual(['Hello there, you', true, false])
  })

  it('is nothing of one’s own once it is what is saved, and goes with that', async () => {
    const { write, comes, state } = setting()
    write('a')
    await comes('b')
    write('b')
    await comes('c')
    expect(state()).toEqual(['c', false, false])
  })

  it('stays where saving was refused, and tells of what others saved meanwhile', async () => {
    const { draft, write, comes, state } = setting()
    write('Hello there')
    await draft.save(() => Promise.resolve(null))
    expect(state()).toEqual(['Hello there', true, false])
    await draft.save(async () => {
      await comes('Good day')
      return null
    })
    expect(state()).toEqual(['Hello there', true, true])
  })

  it('stays where saving broke', async () => {
    const { draft, write, state } = setting()
    write('Hello there')
    await expect(draft.save(() => Promise.reject(new Error('no server')))).rejects.toThrow('no server')
    expect(state()).toEqual(['Hello there', true, false])
  })

  it('has let go of it where saving leads to another item', async () => {
    const { draft, write, comes, state } = setting()
    write('A new one')
    await draft.save(async () => {
      await comes('A new one, kept', 7)
      return true
    })
    expect(state()).toEqual(['A new one, kept', false, false])
  })

  it('is apart from what is saved', () => {
    const saved = { list: [{ name: 'a' }] }
    const draft = draftOf(() => saved)
    draft.written.value.list[0]!.name = 'b'
    expect(saved.list[0]?.name).toBe('a')
    expect(draft.dirty.value).toBe(true)
  })

  it('never loses what was written last, and never asks about what is saved, whatever happens in between', async () => {
    const text = fc.constantFrom('a', 'b', 'c')
    const act = fc.oneof(
      fc.record({ kind: fc.constant('write' as const), text }),
      fc.record({ kind: fc.constant('comes' as const), text }),
      fc.record({ kind: fc.constant('save' as const), fails: fc.boolean() }),
      fc.record({ kind: fc.constant('take' as const) }),
    )
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 12 }), async (acts) => {
        const { draft, write, comes, state } = setting()
        /** What was written and is neither saved nor given up; `null` for nothing. */
        let mine: string | null = null
        let kept = 'Hello'
        for (const one of acts) {
          if (one.kind === 'write') write((mine = one.text))
          if (one.kind === 'comes') await comes((kept = one.text))
          if (one.kind === 'take') draft.take()
          if (one.kind === 'save')
            await draft.save(async (given) => {
              if (one.fails) return null
              await comes((kept = given.text))
              return true
            })
          if (one.kind === 'take' || mine === kept) mine = null
          await nextTick()
          expect(state().slice(0, 2)).toEqual([mine ?? kept, mine !== null])
        }
      }),
      { numRuns: 300 },
    )
  })
})
