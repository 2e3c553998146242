import pino from 'pino'
import type { RunReport } from '../../core/engine/handle-event'
import { endedQuietly } from '../../core/engine/world'

/**
 * One line of JSON a request and a run, on standard output. `SKY_LEVER_LOG` sets how much: `silent`, `error`, `warn`,
 * `info` or `debug`. Numbers of records and rules stand in it; names, values and addresses of people never do.
 */
export const log = pino(
  {
    level: process.env.SKY_LEVER_LOG ?? 'info',
    base: null,
    timestamp: pino.stdTimeFunctions.isoTime,
    formatters: { level: (label) => ({ level: label }) },
  },
  pino.destination({ dest: 1, sync: true }),
)

/** Runs that ended at their conditions are the usual case and are told at `debug` only. */
export function logRuns(reports: readonly RunReport[]): void {
  for (const { runId, ruleId, ref, state, stop, steps } of reports) {
    const line = {
      run: runId,
      rule: ruleId,
      [ref.object]: ref.id,
      state,
      ...(stop ? { stop: stop.code } : {}),
      steps: steps.map((step) => step.state),
    }
    if (state === 'failed') log.warn(line, 'run')
    else if (endedQuietly(stop)) log.debug(line, 'run')
    else log.info(line, 'run')
  }
}
