import { OUTBOX_WORDS, type OutboxChannel } from '../../core/messages/guards'
import { count } from '../../core/language/counts'
import { capital } from '../../core/language/nouns'
import type { Workspace } from '../engine/workspace'
import type { GivenUp } from '../store/problems'
import { defineProblem, type Found } from './problem'

const MOST = 5000

const keyOf = ({ channel, error }: GivenUp): string => `${channel} ${error.slice(0, 200)}`

/** What failed a run is told with the run. */
function alone(workspace: Workspace): ReadonlyMap<string, readonly GivenUp[]> {
  const found = new Map<string, GivenUp[]>()
  for (const row of workspace.store.problems.givenUp(MOST)) {
    if (row.runState === 'failed') continue
    const there = found.get(keyOf(row))
    if (there) there.push(row)
    else found.set(keyOf(row), [row])
  }
  return found
}

/** Messages, calls and web requests that were given up, by channel and reason. */
export const undelivered = defineProblem({
  kind: 'undelivered',
  title: 'Not delivered',
  fix: 'Check the account or the service that refused them, then try them again.',
  find: (workspace) =>
    [...alone(workspace)].flatMap(([key, rows]): Found[] => {
      const [first] = rows
      if (!first) return []
      const what = OUTBOX_WORDS[first.channel as OutboxChannel]
      return [
        {
          key,
          says: `${capital(rows.length === 1 ? `${what} to ${first.recipient || 'a service'}` : count(rows.length, 'message'))} could not be delivered${first.error === '' ? '' : `: ${first.error}`}`,
          count: rows.length,
          path: first.channel === 'web' ? '/messages/web' : '/messages/settings',
        },
      ]
    }),
  again(workspace, key) {
    const rows = alone(workspace).get(key) ?? []
    const nowMs = workspace.clock.nowMs()
    workspace.db.inTurn(() =>
      workspace.db.atomically(() => {
        for (const { id } of rows) workspace.store.outbox.revive(id, nowMs)
      }),
    )
    workspace.courier.wake()
    return { tried: rows.length, done: rows.length }
  },
})
