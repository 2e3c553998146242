import { expect, it } from 'vitest'
import { once } from './once'

it('is done once while it is under way, and again when it is over', async () => {
  const done: string[] = []
  let letGo = (): void => undefined
  const act = once(async (what: string) => {
    await new Promise<void>((go) => (letGo = go))
    done.push(what)
  })
  const twice = [act('first'), act('second')]
  letGo()
  await Promise.all(twice)
  expect(done).toEqual(['first'])
  const third = act('third')
  letGo()
  await third
  expect(done).toEqual(['first', 'third'])
})

it('is over as well when it failed, and whoever asked is told', async () => {
  let refuses = true
  const act = once(() => (refuses ? Promise.reject(new Error('refused')) : Promise.resolve()))
  await expect(act()).rejects.toThrow('refused')
  refuses = false
  await expect(act()).resolves.toBeUndefined()
})

it('may be done to several beside one another, where it is said which', async () => {
  const done: number[] = []
  const act = once(
    async ({ id }: { readonly id: number }) => {
      await Promise.resolve()
      done.push(id)
    },
    ({ id }) => id,
  )
  await Promise.all([act({ id: 1 }), act({ id: 2 }), act({ id: 1 })])
  expect(done).toEqual([1, 2])
})
