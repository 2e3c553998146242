import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client'
import type { Workspace } from '../engine/workspace'

export const register = new Registry()
collectDefaultMetrics({ register })

export const requestSeconds = new Histogram({
  name: 'sky_lever_request_seconds',
  help: 'Request duration by route and status',
  labelNames: ['method', 'route', 'status'],
  buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
  registers: [register],
})
const runs = new Counter({
  name: 'sky_lever_runs_total',
  help: 'Rule runs since start, by result',
  labelNames: ['state'],
  registers: [register],
})
const behind = new Gauge({
  name: 'sky_lever_events_behind',
  help: 'Events not yet processed by rules',
  registers: [register],
})
const outbox = new Gauge({
  name: 'sky_lever_outbox_pending',
  help: 'Messages waiting to be sent',
  registers: [register],
})
const givenUp = new Gauge({
  name: 'sky_lever_outbox_given_up',
  help: 'Messages that were given up after their last try',
  registers: [register],
})
const open = new Gauge({
  name: 'sky_lever_live_connections',
  help: 'Open live connections',
  registers: [register],
})

export function countRuns(counts: Readonly<Record<string, number>>): void {
  for (const [state, n] of Object.entries(counts)) runs.inc({ state }, n)
}

/** Reads what is a state and not a count, at the moment somebody asks. */
export function gauges({ store, live }: Workspace): void {
  behind.set(store.events.behind('engine'))
  outbox.set(store.outbox.pending())
  givenUp.set(store.outbox.givenUp())
  open.set(live.size)
}
