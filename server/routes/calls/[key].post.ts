import { z } from 'zod'
import { callEnded } from '../../engine/calls'
import { readSignedWith } from '../../store/signature'
import { ProblemError } from '../../utils/problem'
import { useWorkspace } from '../../utils/workspace'

/** How a call went, as the dialler tells it at the address that it was given. */
export default defineFrontDoor(z.record(z.string().max(60), z.unknown()), (result, event) => {
  const workspace = useWorkspace()
  const name = readSignedWith(workspace.store.websites.secret(), 'call', getRouterParam(event, 'key') ?? '')
  const taken = name === null ? 'unknown' : callEnded(workspace, name.replaceAll('_', '-'), result)
  if (taken === 'unknown') throw new ProblemError({ code: 'noSuch', what: 'call' })
  return { taken }
})
