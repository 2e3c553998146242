import { sendCrowd } from '../../../engine/simulated-visitors'

export default defineRoute('POST /simulated-visitors', ({ workspace, body: { visitors } }) => {
  if (!workspace.catalogue().workspace.demo) throw new ProblemError({ code: 'noSimulation' })
  return { pages: sendCrowd(workspace, visitors) }
})
