import { figure, nounOf, plural } from '../../language/counts'
import { OBJECT_WORDS } from '../../records/kinds'
import { makesTask } from '../steps/create-task/task'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'
import { allOf } from './possible'

/** A task for the owner of records that have none. */
export const nobody = definePreflight({
  kind: 'nobody',
  look(rule, { data }) {
    const { document } = rule
    const steps = placedSteps(document).filter(
      ({ step, object, depth }) =>
        makesTask(step) && object === document.object && depth === 0 && forOwner(step.params),
    )
    const [first] = steps
    if (!first) return []
    // What the rule itself writes before the task is written then.
    if (document.steps.slice(0, document.steps.indexOf(first.step)).some((step) => step.kind === 'assignOwner'))
      return []
    const { count, first: example } = data.count(
      document.object,
      allOf(document.conditions, {
        kind: 'condition',
        id: 'preflight-empty',
        field: 'owner',
        op: 'isEmpty',
        not: false,
        params: {},
      }),
    )
    const total = data.count(document.object, document.conditions).count
    if (count === 0 || !example) return []
    return [
      noted('nobody', rule, {
        severity: count * 10 >= total ? 'warning' : 'info',
        part: 'step',
        id: first.step.id,
        param: 'title',
        text: `${figure(count)} ${nounOf(count, document.object)} ${plural(count, 'has', 'have')} no owner`,
        why: `${figure(count)} of ${figure(total)} matching ${OBJECT_WORDS[document.object].many} ${plural(count, 'has', 'have')} no owner, for example “${example.name}”. The step would be skipped.`,
      }),
    ]
  },
})

const forOwner = (params: object): boolean =>
  !('who' in params) || (params as { readonly who: { readonly by: string } }).who.by === 'owner'
