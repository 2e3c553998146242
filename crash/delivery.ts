import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { document, enters, task } from '../core/testing/rules'
import { openLarkmoor } from '../demo/fill'
import { Random } from '../demo/random'
import { bundle } from '../scripts/bundle.mjs'
import { SetClock } from '../server/engine/clock'
import { Workspace } from '../server/engine/workspace'
import { runChild } from './kill'
import { MIGRATIONS } from './setting'

const CHILD = '.worker/crash-delivery-child.mjs'

export interface DeliveryReport {
  readonly messages: number
  /** Handed over more than once. */
  readonly twice: number
  readonly wrong: readonly string[]
}

/** Makes an outbox with so many messages in it. */
function fillOutbox(dbFile: string, messages: number): void {
  const nowMs = Date.now()
  const workspace = openLarkmoor(
    { dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity },
    new SetClock(nowMs),
  )
  const rule = document({ when: [enters('hp-quoted')], then: [task('Ring', { email: true })] }, 'Quoted')
  const { rules, outbox } = workspace.store
  const ruleId = rules.create(rule, 'ines', nowMs)
  rules.publish(ruleId, rule, 'ines', nowMs)
  rules.setState(ruleId, 'on', 'ines', nowMs)
  workspace.rulesChanged()
  const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-quoted', owner: 'rosa' }, [], 'ines')
  const run = workspace.store.runs.list({ object: ref.object, recordId: ref.id, limit: 1 })[0]
  if (!run) throw new Error('the deal started no run')
  workspace.db.atomically(() => {
    for (let n = 1; n < messages; n++)
      outbox.add(
        {
          key: `more-${n}`,
          channel: 'mail',
          recipient: 'x@larkmoor.example',
          subject: 's',
          body: '',
          runId: run.id,
          more: null,
        },
        nowMs,
      )
  })
  workspace.close()
}

/**
 * Two processes hand over the same outbox and are killed again and again. Each message is handed over once; twice,
 * under one key, only by a process that was killed between handing it over and saying so.
 */
export async function deliveryRounds({
  messages,
  kills,
  seed,
}: {
  readonly messages: number
  readonly kills: number
  readonly seed: number
}): Promise<DeliveryReport> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-delivery-'))
  const [dbFile, receiver] = [join(folder, 'delivery.db'), join(folder, 'received.txt')]
  const random = new Random(seed)
  const wrong: string[] = []
  try {
    await bundle('crash/delivery-child.ts', CHILD)
    fillOutbox(dbFile, messages)
    const keepKilling = async (times: number): Promise<void> => {
      for (let round = 0; round < times; round++) await runChild(CHILD, [dbFile, receiver], random.int(1, 250))
      await runChild(CHILD, [dbFile, receiver], null)
    }
    await Promise.all([keepKilling(kills), keepKilling(kills)])
    const by = new Map<string, string[]>()
    const lines = existsSync(receiver) ? readFileSync(receiver, 'utf8').split('\n').filter(Boolean) : []
    for (const line of lines) {
      const [process = '', key = ''] = line.split(' ')
      by.set(key, [...(by.get(key) ?? []), process])
    }
    if (by.size !== messages) wrong.push(`${by.size} of ${messages} were handed over`)
    const repeated = [...by].filter(([, processes]) => processes.length > 1)
    for (const [key, processes] of repeated)
      if (new Set(processes).size !== processes.length) wrong.push(`${key} went twice from one process`)
    const most = Math.max(0, ...repeated.map(([, processes]) => processes.length))
    if (most > kills + 1) wrong.push(`one was handed over ${most} times`)
    const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
    if (workspace.store.outbox.pending() > 0) wrong.push(`${workspace.store.outbox.pending()} are still pending`)
    workspace.close()
    return { messages, twice: repeated.length, wrong }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** `node scripts/bundled.mjs crash/delivery.ts [messages] [kills]` */
export async function main(args: readonly string[]): Promise<void> {
  const report = await deliveryRounds({ messages: Number(args[0] ?? 20_000), kills: Number(args[1] ?? 20), seed: 7 })
  process.stdout.write(`${JSON.stringify(report, null, 2)}\n`)
  if (report.wrong.length > 0) process.exitCode = 1
}
