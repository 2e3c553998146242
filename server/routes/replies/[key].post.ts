import { ANSWER_MOST } from '../../../core/web/request'
import { readSigned } from '../../engine/signed-link'
import { repliedLater } from '../../engine/web-replies'
import { readJsonText } from '../../utils/body'
import { ProblemError } from '../../utils/problem'
import { defineServiceDoor } from '../../utils/service-door'

/** The later answer of a service to a request, at the address that it was given with it. */
export default defineServiceDoor(async (workspace, event) => {
  const id = workspace.catalogueOrNull() ? readSigned(workspace, 'reply', getRouterParam(event, 'key') ?? '') : null
  const body = await readJsonText(event, ANSWER_MOST)
  const taken = id === null ? 'unknown' : repliedLater(workspace, id, body)
  if (taken === 'unknown') throw new ProblemError({ code: 'noSuch', what: 'request' })
  return { taken }
})
