import type { APIRequestContext } from '@playwright/test'

export const set = (id: string, field: string, value: unknown) => ({
  id,
  kind: 'setField',
  params: { field, source: { from: 'value', value } },
})

/** A connection that was idle may be closed by the server just as it is used again: reading is then tried anew. */
export const ANEW = { maxRetries: 2 } as const

export const values = async (request: APIRequestContext, id: number) =>
  ((await (await request.get(`/api/v1/records/deal/${id}`, ANEW)).json()) as { values: Record<string, unknown> }).values

export const change = (request: APIRequestContext, id: number, given: object) =>
  request.patch(`/api/v1/records/deal/${id}`, { data: { values: given }, ...ANEW })

export const runsOf = async (request: APIRequestContext, rule: number) =>
  (
    (await (await request.get('/api/v1/runs', { params: { rule, all: 'true', limit: 200 }, ...ANEW })).json()) as {
      lines: { id: number; state: string; outcome: string; ref: { id: number } }[]
    }
  ).lines
