import { request } from '@playwright/test'
import { BASE, SIGNED_IN } from './address'

/** Signs the specialist in once; every test begins with her cookie. */
export default async function signInOnce(): Promise<void> {
  const context = await request.newContext({ baseURL: BASE })
  const answer = await context.post('/api/v1/session/demo', { data: { personId: 'ines' } })
  if (!answer.ok()) throw new Error(`the specialist could not sign in: ${await answer.text()}`)
  await context.storageState({ path: SIGNED_IN })
  await context.dispose()
}
