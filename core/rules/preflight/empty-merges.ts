import { aboutOf } from '../../signals'
import { figure, plural } from '../../language/counts'
import { OBJECT_WORDS } from '../../records/kinds'
import { LINKABLE } from '../../records/record'
import type { Condition, Group } from '../../conditions/document'
import { mergeObjects, splitText } from '../merge'
import type { Trigger } from '../document'
import { STEPS } from '../steps'
import { placedSteps } from '../tree'
import { TRIGGERS } from '../triggers'
import { definePreflight, noted } from './finding'
import { allOf } from './possible'
import type { Names } from '../../fields/names'
import { fieldWord } from '../../fields/say-value'

/** From so many of a hundred on it is worth a word, and from so many it is hardly meant. */
const NOTE_PERCENT = 5
const LIKELY_PERCENT = 25

const emptyOf = (field: string): Condition => ({
  kind: 'condition',
  id: 'preflight-empty',
  field,
  op: 'isEmpty',
  not: false,
  params: {},
})
const filledOf = (field: string): Condition => ({ ...emptyOf(field), not: true })

/** Texts whose merge fields have nothing to say on many of the records that match. */
export const emptyMerges = definePreflight({
  kind: 'emptyMerges',
  look(rule, { catalogue, data }) {
    const { document } = rule
    const total = data.count(document.object, document.conditions).count
    if (total === 0) return []
    return placedSteps(document)
      .filter(({ object, depth }) => object === document.object || depth === 0)
      .flatMap(({ step, object }) => {
        const writing = STEPS[step.kind].writes(step.params, catalogue)
        const texts =
          writing?.texts ??
          Object.entries(step.params).flatMap(([param, text]) => (typeof text === 'string' ? [{ param, text }] : []))
        const seen = new Set<string>()
        return texts.flatMap(({ param, text }) =>
          splitText(text).flatMap((part) => {
            // Several variants of a template have the same gap.
            if (!('merge' in part) || part.or !== undefined || seen.has(`${param} ${part.merge}`)) return []
            seen.add(`${param} ${part.merge}`)
            const [of = '', key = ''] = part.merge.split('.')
            // A company or an appointment has no main contact that could be asked about.
            const kind = mergeObjects(object).find(
              (one) =>
                one === of && (one === object || LINKABLE.some((pair) => pair.from === object && pair.to === one)),
            )
            const field = kind && catalogue.field(kind, key)
            if (!kind || !field || (field.required && kind === object)) return []
            if (
              kind === object &&
              document.triggers.length > 0 &&
              document.triggers.every((trigger) => leavesFilled(trigger, key, { catalogue, object }))
            )
              return []
            const empty: Group =
              kind === object
                ? allOf(document.conditions, emptyOf(key))
                : allOf(document.conditions, {
                    kind: 'group',
                    id: 'preflight-none',
                    mode: 'none',
                    items: [
                      {
                        kind: 'linked',
                        id: 'preflight-main',
                        object: kind,
                        how: 'main',
                        count: 1,
                        group: allOf(filledOf(key)),
                      },
                    ],
                  })
            const { count, first } = data.count(object, empty)
            const percent = Math.round((100 * count) / total)
            if (percent < NOTE_PERCENT || !first) return []
            const whose = `${figure(count)} of ${figure(total)} matching ${OBJECT_WORDS[object].many}`
            const none = `${plural(count, 'has', 'have')} no ${fieldWord(field)}, for example “${first.name}”.`
            const then = writing
              ? `Nothing would be sent ${plural(count, 'there', 'to them')}: say what to print instead.`
              : `The text would show “(no ${fieldWord(field)})”.`
            return [
              noted('emptyMerges', rule, {
                severity: percent >= LIKELY_PERCENT ? 'warning' : 'info',
                part: 'step',
                id: step.id,
                param,
                about: part.merge,
                text: `${kind === object ? field.label : `${OBJECT_WORDS[kind].One} ${fieldWord(field)}`} is empty on ${percent}%`,
                why: `${whose} ${none} ${then}`,
              }),
            ]
          }),
        )
      })
  },
})

/**
 * Whether the field surely holds something right after the trigger: it listens to it, and emptying it starts nothing.
 */
function leavesFilled(trigger: Trigger, key: string, names: Names): boolean {
  const kind = TRIGGERS[trigger.kind]
  return (
    kind
      .listen(trigger.params, names)
      .map(aboutOf)
      .some((about) => 'field' in about && about.field === key) &&
    !kind.compile(trigger.params, names)({ kind: 'changed', changes: [{ field: key, old: 'before', new: null }] })
  )
}
