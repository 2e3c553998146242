import type { Socket } from 'node:net'
import { isOurHost } from '../utils/hosts'

/** Looked at by whatever watches the machine, under any name; nothing of anybody stands in them. */
const OPEN = ['/healthz', '/readyz']

/**
 * Answers only under names it knows: a page elsewhere whose name was made to lead here would otherwise be a page of
 * ours to a browser (DNS rebinding), and links in what we send would lead to whoever asked.
 */
export default defineEventHandler((event) => {
  // A page that is made here asks for its data here.
  if (!(event.node.req.socket as Socket & { readonly server?: unknown }).server) return
  if (OPEN.includes(event.path) || isOurHost(getHeader(event, 'host') ?? '')) return
  setResponseHeader(event, 'connection', 'close')
  return answerProblem(event, new ProblemError({ code: 'unknownHost' }))
})
