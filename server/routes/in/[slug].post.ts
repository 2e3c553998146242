import { takeIn } from '../../engine/intake'
import { readJsonText } from '../../utils/body'
import { ProblemError } from '../../utils/problem'
import { defineServiceDoor } from '../../utils/service-door'

const BODY_MOST = 256_000

/** A request from a service outside, at an address that was made for it. */
export default defineServiceDoor(async (workspace, event) => {
  const slug = getRouterParam(event, 'slug') ?? ''
  const intake = workspace.catalogueOrNull() ? workspace.store.intakes.bySlug(slug) : null
  if (!intake) throw new ProblemError({ code: 'noSuch', what: 'address' })
  const body = await readJsonText(event, BODY_MOST)
  const got = takeIn(workspace, intake, { headers: getHeaders(event), body })
  if (got.is === 'refused') throw new ProblemError({ code: 'notTaken', status: got.status, said: got.because })
  setResponseStatus(event, got.is === 'known' ? 200 : 202)
  return { taken: got.is === 'taken', says: got.says }
})
