import { CALLED_ALONE } from '../demo/rules/by-the-clock'
import { isLeftAlone } from '../core/results/left-alone'

/** Makes deals until one is there that a rule of the demo does not leave alone to compare. */
export async function treated(rule: number, make: () => Promise<number>): Promise<number> {
  for (;;) {
    const id = await make()
    if (!isLeftAlone(rule, { object: 'deal', id }, CALLED_ALONE)) return id
  }
}
