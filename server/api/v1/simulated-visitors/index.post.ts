import { sendCrowd } from '../../../engine/simulated-visitors'

export default defineRoute('POST /simulated-visitors', ({ workspace, body: { visitors } }) => {
  if (!workspace.catalogue().workspace.demo)
    throw new ProblemError(409, 'No simulation', 'Only a demo workspace has a simulated website.')
  return { pages: sendCrowd(workspace, visitors) }
})
