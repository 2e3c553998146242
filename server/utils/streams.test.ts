import { expect, it } from 'vitest'
import { endStreams, endWithServer } from './streams'

it('ends every answer that goes on, once, and none that ended by itself', () => {
  const ended: string[] = []
  const open = (name: string) => endWithServer(() => ended.push(name))
  open('first')
  const left = open('second')
  open('third')
  left()
  endStreams()
  expect(ended).toEqual(['first', 'third'])
  endStreams()
  expect(ended).toEqual(['first', 'third'])
})

it('ends one that takes itself out while it ends', () => {
  let times = 0
  const leave = endWithServer(() => {
    times++
    leave()
  })
  endStreams()
  expect(times).toBe(1)
})
