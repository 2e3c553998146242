import type { Told } from '../worker/protocol'
import type { RehearsalState } from '../worker/rehearsal-state'

/** Rehearsals that were begun in this process: how far each has come. What came of them stays in their own thread. */
export interface Begun {
  readonly id: number
  readonly personId: string
  readonly name: string
  state: RehearsalState
  progress: number
  text: string
}

const begun = new Map<number, Begun>()
const BEGUN_MOST = 50
let last = 0

export function beginRehearsal(personId: string, name: string): Begun {
  const made: Begun = { id: ++last, personId, name, state: 'running', progress: 0, text: '' }
  begun.set(made.id, made)
  for (const old of [...begun.keys()].slice(0, -BEGUN_MOST)) begun.delete(old)
  return made
}

export const rehearsalOf = (id: number): Begun | null => begun.get(id) ?? null

/** Keeps what a thread tells of a rehearsal. */
export function heardOfRehearsal({ id, state, progress, text }: Extract<Told, { told: 'rehearsal' }>): void {
  const found = begun.get(id)
  if (found) Object.assign(found, { state, progress, text })
}
