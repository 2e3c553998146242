import { nextTick, shallowRef } from 'vue'
import { describe, expect, it } from 'vitest'
import { templateDraft } from './templateDraft'

const template = (id: number, text: string, version = 1) => ({
  id,
  version,
  name: `Template ${id}`,
  folder: '',
  channel: 'mail' as const,
  variants: [{ language: '', subject: 'Welcome', text }],
})

function setting() {
  const chosen = shallowRef<ReturnType<typeof template> | null>(template(1, 'Hello'))
  const draft = templateDraft(() => chosen.value)
  const show = async (next: typeof chosen.value): Promise<void> => {
    chosen.value = next
    await nextTick()
  }
  return { chosen, draft, show }
}

describe('a template that is being written', () => {
  it('stays as it is written when somebody else saves it, and that is told', async () => {
    const { draft, show } = setting()
    draft.variant.value.text = 'Hello there'
    await show(template(1, 'Good day', 2))
    expect(draft.variant.value.text).toBe('Hello there')
    expect(draft.elsewhere.value).toBe(true)
    draft.take()
    expect(draft.variant.value.text).toBe('Good day')
    expect([draft.dirty.value, draft.elsewhere.value]).toEqual([false, false])
  })

  it('is saved, new or not, and is that one from then on', async () => {
    const { draft, show } = setting()
    draft.making.value = true
    await nextTick()
    draft.variant.value.text = 'Brand new'
    await draft.save(async ({ variants }) => {
      await show(template(9, variants[0]!.text))
      draft.making.value = false
      await nextTick()
      // Going to it is no leaving of something unsaved.
      expect(draft.dirty.value).toBe(false)
      return true
    })
    expect(draft.written.value).toMatchObject({ name: 'Template 9', variants: [{ text: 'Brand new' }] })
    expect(draft.dirty.value).toBe(false)
  })

  it('is another one when that is chosen', async () => {
    const { draft, show } = setting()
    draft.addLanguage('Polish')
    await show(template(2, 'Thank you'))
    expect(draft.written.value).toMatchObject({ name: 'Template 2', variants: [{ text: 'Thank you' }] })
    expect(draft.language.value).toBe('')
    expect(draft.dirty.value).toBe(false)
  })

  it('begins with nothing where a new one is made, and comes back', async () => {
    const { draft } = setting()
    draft.making.value = true
    await nextTick()
    expect(draft.written.value).toMatchObject({ name: '', variants: [{ language: '', text: '' }] })
    expect(draft.dirty.value).toBe(false)
    draft.written.value.name = 'Thanks'
    expect(draft.dirty.value).toBe(true)
    draft.making.value = false
    await nextTick()
    expect(draft.variant.value.text).toBe('Hello')
  })

  it('has nothing written where there is none', async () => {
    const { draft, show } = setting()
    await show(null)
    expect(draft.written.value.name).toBe('')
    expect(draft.dirty.value).toBe(false)
  })
})

describe('the languages of a template', () => {
  it('begin with the words of the first one, and go by themselves from there', () => {
    const { draft } = setting()
    draft.addLanguage('Polish')
    expect(draft.variant.value).toEqual({ language: 'Polish', subject: 'Welcome', text: 'Hello' })
    draft.variant.value.text = 'Dzień dobry'
    draft.language.value = ''
    expect(draft.variant.value.text).toBe('Hello')
    draft.language.value = 'Polish'
    draft.removeLanguage()
    expect(draft.written.value.variants.map(({ language }) => language)).toEqual([''])
    expect(draft.language.value).toBe('')
  })

  it('are none where none is chosen', () => {
    const { draft } = setting()
    draft.addLanguage('')
    expect(draft.written.value.variants).toHaveLength(1)
    expect(draft.dirty.value).toBe(false)
  })
})
