import { sayGroup } from '#core/conditions/compile'
import { linkedKinds } from '#core/conditions/linked'
import type { Catalogue } from '#core/fields/catalogue'
import { labelOf } from '#core/language/labels'
import type { Widget } from '#core/language/widgets'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import { senderOptions, templateOptions } from '#core/rules/steps/send-message/recipients'
import { bandField } from '#core/scoring/card'
import { connectionOptions } from './connectionOptions'

/** Where on a sheet something is chosen. */
export interface ListPlace {
  readonly here: Catalogue
  readonly object: ObjectKind
  readonly param: string
  readonly params: Readonly<Record<string, unknown>>
}

interface ListOption {
  readonly value: string
  readonly label: string
  readonly hint?: string
  readonly detail?: string
  readonly group?: string
}

interface ListKind<W extends Widget> {
  readonly label: string | ((widget: W, param: string) => string)
  readonly placeholder?: string
  /** All that can be chosen there; `null` while what it hangs on is still to be chosen. */
  readonly options: (place: ListPlace, widget: W) => readonly ListOption[] | null
  /** The option that stands for nothing, where there is one. */
  readonly none?: string
  /** What a choice is in the document, where it is not the text of its option. */
  readonly read?: (picked: string) => unknown
}

type Named<N extends Widget['widget']> = Extract<Widget, { widget: N }>
type Lists = {
  readonly [N in ListWidget]: ListKind<Named<N>>
}
export type ListWidget =
  | 'stage'
  | 'segment'
  | 'activity'
  | 'band'
  | 'person'
  | 'pick'
  | 'sender'
  | 'template'
  | 'connection'
  | 'stepBefore'
  | 'linkable'

/** Widgets that are nothing but a list to choose one thing from. */
const LISTS: Lists = {
  stage: {
    label: 'Stage',
    placeholder: 'Search stages',
    options: ({ here }) =>
      here.pipelines.flatMap((pipeline) =>
        pipeline.stages.map((stage) => ({
          value: stage.id,
          label: stage.name,
          group: pipeline.name,
          hint: stage.outcome === 'open' ? '' : stage.outcome,
        })),
      ),
  },
  segment: {
    label: 'Segment',
    placeholder: 'Search segments',
    options: ({ here, object }) =>
      (here.data.segments ?? [])
        .filter((one) => one.object === object)
        .map((one) => ({ value: String(one.id), label: one.name, detail: sayGroup(one.filter, one.object, here) })),
    read: Number,
  },
  activity: {
    label: 'Activity',
    options: ({ here }, { form }) => here.activities.options(form),
  },
  band: {
    label: 'Band',
    placeholder: 'Search bands',
    options: ({ here, object, params }, { of }) => {
      const score = params[of]
      if (typeof score !== 'string') return null
      return (here.field(object, bandField(score))?.choices ?? []).map((one) => ({ value: one.id, label: one.label }))
    },
  },
  person: {
    label: 'Person',
    placeholder: 'Search people',
    options: ({ here }) =>
      here.people
        .filter((person) => person.active)
        .map((person) => ({ value: person.id, label: person.name, hint: person.title })),
  },
  pick: {
    label: (widget, param) => labelOf(param, widget.label),
    options: ({ here }, { options }) => options.filter((one) => one.needs === undefined || here.stepsBefore.length > 0),
  },
  sender: {
    label: 'Sender',
    placeholder: 'Search senders',
    options: ({ here, object }) => senderOptions(here, object),
  },
  template: {
    label: 'Template',
    placeholder: 'Search templates',
    options: ({ here, params }, { channel }) => templateOptions(here, params[channel]),
    none: '',
    read: (picked) => (picked === '' ? null : Number(picked)),
  },
  connection: {
    label: 'Connection',
    placeholder: 'Search connections',
    options: ({ here }) => connectionOptions(here),
    read: Number,
  },
  stepBefore: {
    label: 'Step',
    options: ({ here }) => here.stepsBefore.map(({ id, label }) => ({ value: id, label: `step ${label}` })),
  },
  linkable: {
    label: 'Record type',
    placeholder: 'Search record types',
    options: ({ object }) => linkedKinds(object).map((one) => ({ value: one, label: OBJECT_WORDS[one].one })),
  },
}

/** Whether a widget is a list to choose one thing from. */
export const isListWidget = (widget: Widget): widget is Named<ListWidget> => Object.hasOwn(LISTS, widget.widget)

/** A list as it is shown: its options, what is chosen now, and what a choice comes to in the document. */
export interface ShownList {
  readonly label: string
  readonly placeholder: string | undefined
  readonly options: readonly ListOption[]
  readonly current: string | null
  readonly read: (picked: string) => unknown
}

const shown = <N extends ListWidget>(kind: Lists[N], widget: Named<N>, place: ListPlace): ShownList | null => {
  const options = kind.options(place, widget)
  const value = place.params[place.param]
  return (
    options && {
      label: typeof kind.label === 'string' ? kind.label : kind.label(widget, place.param),
      placeholder: kind.placeholder,
      options,
      current: value === null || value === undefined ? (kind.none ?? null) : String(value),
      read: kind.read ?? ((picked) => picked),
    }
  )
}

/** The list that a widget is; `null` for one that is something else, or has nothing to choose from yet. */
export function listOfWidget(widget: Widget, place: ListPlace): ShownList | null {
  return isListWidget(widget) ? shown(LISTS[widget.widget], widget, place) : null
}
