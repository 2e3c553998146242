import { retry } from '../../../engine/retry'

/** Takes failed runs on from where each failed. */
export default defineRoute('POST /run-retries', ({ workspace, person, body: { ids } }) => {
  const states = [...new Set(ids)]
    .map((id) => {
      if (!workspace.store.runs.get(id)) throw notFound(`run ${id}`)
      return id
    })
    .map((id) => retry(workspace, id, person.id)?.state ?? 'left')
  const count = (state: string) => states.filter((one) => one === state).length
  return { done: count('done'), failed: count('failed'), left: states.length - count('done') - count('failed') }
})
