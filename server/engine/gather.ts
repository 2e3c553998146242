import type { LiveMessage } from './live'

/** So many runs of one stretch are told one by one; of more than that none is: the journal has them all. */
const RUNS_TOLD = 3

/**
 * Gathers what bulk work has to tell into few messages: an import writes hundreds of records a second, and a screen
 * that read itself anew for each of them would do nothing else.
 */
export class Gather {
  private readonly refs = new Map<string, Extract<LiveMessage, { about: 'records' }>['refs'][number]>()
  private readonly people = new Set<string>()
  private readonly noticed = new Set<string>()
  private readonly runs: LiveMessage[] = []
  private readonly imports = new Map<number, LiveMessage>()
  private readonly others = new Map<string, LiveMessage>()

  add(message: LiveMessage): void {
    switch (message.about) {
      case 'records':
        for (const ref of message.refs) this.refs.set(`${ref.object} ${ref.id}`, ref)
        return
      case 'run':
        if (this.runs.length <= RUNS_TOLD) this.runs.push(message)
        return
      case 'tasks':
        for (const person of message.people) this.people.add(person)
        return
      case 'imports':
        this.imports.set(message.id, message)
        return
      case 'notices':
        for (const person of message.people) this.noticed.add(person)
        return
      case 'jobs':
        this.others.set(`jobs ${message.id}`, message)
        return
      case 'rules':
      case 'catalogue':
      case 'segments':
      case 'storage':
      case 'ahead':
      case 'clock':
      case 'sent':
      case 'results':
      case 'problems':
        this.others.set(message.about, message)
    }
  }

  /** What was gathered since the last time, in the order in which screens should hear it. */
  take(): readonly LiveMessage[] {
    const told: LiveMessage[] = [
      ...this.others.values(),
      ...(this.refs.size > 0 ? [{ about: 'records' as const, refs: [...this.refs.values()] }] : []),
      ...(this.runs.length <= RUNS_TOLD ? this.runs : []),
      ...(this.people.size > 0 ? [{ about: 'tasks' as const, people: [...this.people] }] : []),
      ...(this.noticed.size > 0 ? [{ about: 'notices' as const, people: [...this.noticed] }] : []),
      ...this.imports.values(),
    ]
    this.others.clear()
    this.refs.clear()
    this.people.clear()
    this.noticed.clear()
    this.runs.length = 0
    this.imports.clear()
    return told
  }
}
