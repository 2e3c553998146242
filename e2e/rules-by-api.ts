import type { APIResponse } from '@playwright/test'
import type { RuleDocument } from '../core/rules/document'
import { expect } from './app'
import { ANEW, type OwnDemo } from './own-demo'

export interface Rule {
  readonly id: number
  readonly draftRev: number
  readonly draft: RuleDocument
  readonly unreadable: string | null
}

export interface RunLine {
  readonly id: number
  readonly ruleId: number
  readonly ruleName: string
  readonly state: string
  readonly outcome: string
}

/** Rules written, records changed and the clock turned as a program would. */
export function byApi({ api, get, post }: Pick<OwnDemo, 'api' | 'get' | 'post'>) {
  const save = async (id: number, document: RuleDocument): Promise<void> => {
    const { draftRev: rev } = await get<Rule>(`/rules/${id}`)
    const saved = await api().put(`/api/v1/rules/${id}/draft`, { data: { document, rev }, ...ANEW })
    expect(saved.ok(), await saved.text()).toBe(true)
  }
  const draft = async (document: RuleDocument): Promise<number> => {
    const { id } = await post<{ id: number }>('/rules', { name: document.name, object: document.object })
    await save(id, document)
    return id
  }
  const switchOn = async (id: number, more: object = {}): Promise<APIResponse> =>
    await api().post(`/api/v1/rules/${id}/state`, { data: { state: 'on', anyway: true, ...more }, ...ANEW })
  return {
    save,
    draft,
    switchOn,
    /** Writes a rule and switches it on. */
    rule: async (document: RuleDocument): Promise<number> => {
      const id = await draft(document)
      const answer = await switchOn(id)
      expect(answer.ok(), await answer.text()).toBe(true)
      return id
    },
    patch: async (path: string, data: object) => await api().patch(`/api/v1${path}`, { data, ...ANEW }),
    runs: async (rule: number, query = ''): Promise<readonly RunLine[]> =>
      (await get<{ lines: readonly RunLine[] }>(`/runs?rule=${rule}${query}`)).lines,
    tasksOf: async (id: number): Promise<readonly string[]> =>
      (await get<{ timeline: { what: string; task?: { title: string } }[] }>(`/records/deal/${id}`)).timeline.flatMap(
        (line) => (line.what === 'task' && line.task ? [line.task.title] : []),
      ),
    values: async (object: string, id: number): Promise<Readonly<Record<string, unknown>>> =>
      (await get<{ values: Record<string, unknown> }>(`/records/${object}/${id}`)).values,
    /** Turns the demo's clock on, and waits until it has come there. */
    turn: async (toMs: number): Promise<void> => {
      await post('/clock', { toMs })
      await expect
        .poll(async () => (await get<{ nowMs: number }>('/clock')).nowMs, { timeout: 60_000 })
        .toBeGreaterThanOrEqual(toMs)
    },
  }
}
