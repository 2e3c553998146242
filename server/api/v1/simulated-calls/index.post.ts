import { answerPhone } from '../../../engine/calls'

export default defineRoute('POST /simulated-calls', ({ workspace, body: { key, result } }) => {
  const taken = answerPhone(workspace, key, result)
  if (taken === 'unknown') throw notFound(`call ${key}`)
  return { taken }
})
