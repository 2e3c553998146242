import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { useUnsent } from './unsent'

beforeEach(() => setActivePinia(createPinia()))

describe('what somebody began to answer', () => {
  it('is there again for the same thing, and for nothing else', () => {
    const unsent = useUnsent()
    unsent.of('task 1').notes = 'She is back on Monday'
    unsent.of('task 1').outcome = 'voicemail'
    unsent.of('call 1').answers = { budget: 0 }
    expect(unsent.of('task 1')).toMatchObject({ notes: 'She is back on Monday', outcome: 'voicemail' })
    expect(unsent.of('task 2')).toMatchObject({ notes: '', outcome: null, answers: {} })
    expect(unsent.of('call 1').answers).toEqual({ budget: 0 })
  })

  it('is gone once it was sent, and that alone', () => {
    const unsent = useUnsent()
    unsent.of('task 1').notes = 'Back on Monday'
    unsent.of('task 2').reason = 'Too dear'
    unsent.sent('task 1')
    expect(unsent.of('task 1').notes).toBe('')
    expect(unsent.of('task 2').reason).toBe('Too dear')
  })
})
