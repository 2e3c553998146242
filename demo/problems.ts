import { tellActivities } from '../server/engine/activities'
import type { Workspace } from '../server/engine/workspace'
import { STEPS } from '../core/rules/steps'
import { LEFT } from './larkmoor'
import { deal, type DemoRule } from './rules/parts'

/** What needs the specialist when she opens the demo: one of most kinds, made in the ways in which they come about. */

/** Somebody took the reference for a date: it fails for each deal that is signed. */
export const MISTAKEN_RULE: DemoRule = {
  state: 'on',
  document: deal({
    name: 'Signed: plan the handover visit',
    description: 'Written in a hurry: the reference is no date.',
    triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-signed' } }],
    conditions: { kind: 'group', id: 'c0', mode: 'all', items: [] },
    steps: [
      {
        id: 's1',
        kind: 'setField',
        params: { field: 'siteVisit', source: { from: 'formula', text: 'date(reference)' }, keepByHand: false },
      },
    ],
  }),
}

/** It was meant for one delivery of units, and somebody brought in the units of all open deals at once. */
export const PAUSED_RULE: DemoRule = {
  state: 'on',
  document: deal({
    name: 'Units changed: check the crane',
    description: 'Ran for every deal when units were imported.',
    triggers: [{ id: 't1', kind: 'fieldChanges', params: { field: 'units', how: 'anything', from: null, to: null } }],
    conditions: { kind: 'group', id: 'c0', mode: 'all', items: [] },
    steps: [
      {
        id: 's1',
        kind: 'createTask',
        params: { ...STEPS.createTask.start, title: 'Check the crane for {{deal.name}}' },
      },
    ],
  }),
}

const DAY_MS = 86_400_000

/** Of the contacts the last ones are taken, whom hardly any rule has met. */
export function makeProblems(workspace: Workspace, personId: string): void {
  const { store, clock } = workspace
  const nowMs = clock.nowMs()
  const contacts = store.records
    .behind('contact', 0, 500)
    .filter(({ values }) => values.optedOut !== true && typeof values.email === 'string' && values.owner !== null)
  const [bounces, silent] = contacts.slice(-2)
  if (bounces)
    store.addresses.stop({
      channel: 'mail',
      address: String(bounces.values.email),
      because: 'bounced',
      how: 'no such mailbox',
      atMs: nowMs - 2 * DAY_MS,
    })
  if (silent) {
    workspace.change(silent, { email: null }, personId)
    tellActivities(workspace, [{ record: silent, kind: 'form', about: 'Contact', atMs: nowMs - 60_000, key: null }])
  }
  // One who sold florists' rooms has left, and still has customers.
  for (const one of contacts.slice(-6, -4)) workspace.change(one, { owner: LEFT }, personId)
  store.outbox.add(
    {
      key: 'handover photos',
      channel: 'mail',
      recipient: String(contacts.at(-7)?.values.email),
      subject: 'Photos of your handover',
      body: 'Attached are the photos of your new cold room.',
      runId: null,
      more: null,
    },
    nowMs - DAY_MS,
  )
  for (const { id } of store.outbox.claim(personId, nowMs, nowMs, 60_000, 1))
    store.outbox.failed(id, personId, 'the mailbox is full', null)
  const ruleId = store.rules.create(PAUSED_RULE.document, personId, nowMs - 3 * DAY_MS)
  store.rules.publish(ruleId, PAUSED_RULE.document, personId, nowMs - 3 * DAY_MS)
  store.rules.setState(ruleId, 'on', personId, nowMs - 3 * DAY_MS)
  store.ruleJobs.pause(ruleId, { atMs: nowMs - DAY_MS, starts: 640, usual: 4 })
  workspace.rulesChanged()
  store.keys.create(personId, 'Website forms', nowMs - 80 * DAY_MS, {
    readOnly: false,
    areas: null,
    expiresAt: nowMs + 9 * DAY_MS,
  })
}
