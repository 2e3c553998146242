import createClient from 'openapi-fetch'
import type { components, paths } from './api'

type Rule = components['schemas']['Rule']

/**
 * A job as a program of somebody else does it, by a client that was made from the description and nothing else: it
 * makes a rule, switches it on, makes a deal with its contact, moves it, and finishes the task that comes of it. There
 * is no cast in here; what the description does not say cannot be written.
 */
export async function job(base: string, key: string): Promise<{ readonly title: string; readonly state: string }> {
  const api = createClient<paths>({ baseUrl: `${base}/api/v1`, headers: { authorization: `Bearer ${key}` } })
  const got = <T>(answer: { data?: T; error?: { detail: string } }): T => {
    if (answer.data === undefined) throw new Error(answer.error?.detail ?? 'no answer')
    return answer.data
  }

  const { fields, pipelines } = got(await api.GET('/fields', { params: { query: { object: 'deal' } } }))
  const stage = pipelines.flatMap((one) => one.stages).find((one) => one.name === 'Quoted')
  if (!stage || !fields.some((field) => field.key === 'amount')) throw new Error('not the workspace that was meant')

  const { id } = got(await api.POST('/rules', { body: { name: 'Ring about large quotes', object: 'deal' } }))
  const { draft, draftRev: rev } = got(await api.GET('/rules/{id}', { params: { path: { id } } }))
  const document: Rule = {
    ...draft,
    triggers: [{ id: 't1', kind: 'entersStage', params: { stage: stage.id } }],
    conditions: {
      kind: 'group',
      id: 'c0',
      mode: 'all',
      items: [{ kind: 'condition', id: 'c1', field: 'amount', op: 'moreThan', not: false, params: { value: 5000 } }],
    },
    steps: [
      {
        id: 's1',
        kind: 'createTask',
        params: {
          title: 'Ring {{deal.name}}',
          notes: '',
          who: { by: 'owner' },
          due: { count: 1, unit: 'days' },
          taskKind: 'call',
          priority: 'normal',
          remind: 'never',
          email: false,
          again: true,
        },
      },
    ],
  }
  got(await api.PUT('/rules/{id}/draft', { params: { path: { id } }, body: { document, rev } }))
  const { findings } = got(await api.POST('/preflight', { body: { ruleId: id, document } }))
  if (findings.some((one) => one.severity === 'error')) throw new Error('it cannot be switched on')
  got(await api.POST('/rules/{id}/state', { params: { path: { id } }, body: { state: 'on' } }))

  const contact = got(
    await api.POST('/records/{object}', {
      params: { path: { object: 'contact' } },
      body: { values: { name: 'Vera Lind', email: 'vera@lind.example' } },
    }),
  )
  const deal = got(
    await api.POST('/records/{object}', {
      params: { path: { object: 'deal' }, header: { 'Idempotency-Key': `job ${id}` } },
      body: {
        values: { name: 'Lind cold room', stage: 'hp-sized', owner: 'rosa', amount: 9000 },
        links: [contact.ref],
      },
    }),
  )
  const path = { object: deal.ref.object, id: deal.ref.id } as const
  const moved = got(
    await api.PATCH('/records/{object}/{id}', { params: { path }, body: { values: { stage: stage.id } } }),
  )
  if (moved.runs < 1) throw new Error('no rule ran')

  const { tasks } = got(await api.GET('/tasks', { params: { query: { rule: id, state: 'open' } } }))
  const [task] = tasks
  if (!task) throw new Error('no task came of it')
  const { state } = got(
    await api.POST('/tasks/{id}', { params: { path: { id: task.id } }, body: { act: 'finish', outcome: 'reached' } }),
  )

  // A list that is read to its end, with a filter of typed conditions.
  const names: string[] = []
  let cursor: string | undefined
  do {
    const page = got(
      await api.GET('/records/{object}', {
        params: { path: { object: 'deal' }, query: { words: 'Lind', ...(cursor === undefined ? {} : { cursor }) } },
      }),
    )
    names.push(...page.rows.map((row) => String(row.values.name)))
    cursor = page.next ?? undefined
  } while (cursor !== undefined)
  if (!names.includes('Lind cold room')) throw new Error('the deal is not in the list')

  // What is refused is told by its type as well.
  const refused = await api.PATCH('/records/{object}/{id}', { params: { path }, body: { values: { amount: 'much' } } })
  if (refused.error?.places[0]?.path !== 'amount') throw new Error('it was not refused by its place')

  const sheet = got(await api.GET('/day-sheet', { params: { query: {} } }))
  if (!sheet.doneToday.some((one) => one.id === task.id && one.recordName === 'Lind cold room'))
    throw new Error('the day sheet does not have it')
  got(await api.POST('/rules/{id}/state', { params: { path: { id } }, body: { state: 'archived' } }))
  return { title: task.title, state }
}
