import type { WebAnswer } from '../channels/channel'
import type { Outgoing } from '../channels/web'
import type { Db } from '../db/connect'
import { workspace } from '../db/schema/catalogue'

/** What the simulated receiver answers, until somebody says otherwise. */
export const USUAL_ANSWER: SimulatedAnswer = { status: 200, body: '{"order":{"number":"A-1001"}}' }

export interface SimulatedAnswer {
  readonly status: number
  readonly body: string
}

/** The simulated service outside: takes whatever comes, and answers as it was told to. */
export function simulatedAnswer(db: Db, _outgoing: Outgoing): WebAnswer {
  const row = db.orm.select({ answer: workspace.simulatedAnswer }).from(workspace).get()
  const { status, body } = row?.answer ?? USUAL_ANSWER
  return { status, text: body }
}
