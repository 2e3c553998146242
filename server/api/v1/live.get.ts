import { scopeOf, sees, type Scope } from '../../../core/access/scope'
import { goesOn } from '../../auth/session'
import type { LiveMessage, Told } from '../../engine/live'
import type { RecordRef } from '../../../core/records/kinds'
import { seesRef } from '../../engine/seen'
import type { Workspace } from '../../engine/workspace'

/** What of a message a person may hear; `null` for nothing. */
function heard(message: LiveMessage, workspace: Workspace, scope: Scope, personId: string): LiveMessage | null {
  if (message.about === 'notices') return message.people.includes(personId) ? message : null
  if (scope === null) return message
  const visible = (ref: RecordRef): boolean => seesRef(workspace, scope, ref)
  switch (message.about) {
    case 'records': {
      const refs = message.refs.filter(visible)
      return refs.length > 0 ? { ...message, refs } : null
    }
    case 'run':
      return visible(message.ref) ? message : null
    case 'tasks':
      return message.people.some((id) => sees(scope, id)) ? message : null
    case 'imports':
      return null
    case 'rules':
    case 'jobs':
    case 'results':
    case 'problems':
      return null
    case 'ahead':
    case 'clock':
    case 'sent':
      return message
    case 'segments':
    case 'storage':
      return message
    case 'catalogue':
      return message
  }
}

const LOOK_EVERY_MS = 60_000

/**
 * Tells open screens what changed, as server-sent events (WHATWG HTML, 9.2). A connection that comes back says what it
 * heard last and gets the rest; when that is not known any more, it hears `anew` and its screen reads everything again.
 * Ends with the session or the key by which it was asked for.
 */
export default defineEventHandler(async (event) => {
  const workspace = useWorkspace()
  let who: ReturnType<typeof admit>
  try {
    who = admit(event, 'GET /live', workspace)
  } catch (error) {
    return answerProblem(event, error)
  }
  const { person, found } = who
  const stream = createEventStream(event)
  const hear = ({ n, message }: Told): void => {
    if (!goesOn(workspace, found)) {
      void stream.close()
      return
    }
    const told = heard(
      message,
      workspace,
      scopeOf(workspace.catalogue().person(person.id) ?? person, workspace.catalogue()),
      person.id,
    )
    if (told) void stream.push({ id: workspace.live.markOf(n), data: JSON.stringify(told) })
  }
  // The header is of a connection that broke off; the query of a page that was read before it connected.
  const mark = getHeader(event, 'last-event-id') ?? String(getQuery(event).after ?? '')
  const rest = mark === '' ? [] : workspace.live.sinceMark(mark)
  // A first message tells the screen that it hears from here on, and what to name when it comes back.
  void stream.push({
    event: rest ? 'hello' : 'anew',
    id: workspace.live.markOf(rest?.[0] ? rest[0].n - 1 : undefined),
    data: String(workspace.clock.nowMs()),
  })
  for (const told of rest ?? []) hear(told)
  const stop = workspace.live.listen(hear)
  // What ends by itself, with time, tells nobody.
  const looking = setInterval(() => {
    if (!goesOn(workspace, found)) void stream.close()
  }, LOOK_EVERY_MS)
  const leave = endWithServer(() => void stream.close())
  stream.onClosed(async () => {
    stop()
    leave()
    clearInterval(looking)
    await stream.close()
  })
  return stream.send()
})
