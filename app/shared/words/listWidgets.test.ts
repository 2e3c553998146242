import { describe, expect, it } from 'vitest'
import { Catalogue } from '#core/fields/catalogue'
import type { Widget } from '#core/language/widgets'
import { USUAL_MESSAGING } from '#core/messages/settings'
import type { ObjectKind } from '#core/records/kinds'
import { STEPS } from '#core/rules/steps'
import { TRIGGERS } from '#core/rules/triggers'
import { all } from '#core/testing/rules'
import { catalogue as firm } from '#core/testing/setting'
import { isListWidget, listOfWidget } from './listWidgets'

/** The firm with one of everything that a list offers. */
const here = new Catalogue({
  ...firm.data,
  segments: (['contact', 'company', 'deal', 'appointment'] as const).map((object, i) => ({
    id: i + 1,
    object,
    name: `Some of them ${i}`,
    filter: all(),
  })),
  messaging: { ...USUAL_MESSAGING, senders: [{ team: 'Hire', name: 'Larkmoor', address: 'hire@larkmoor.example' }] },
  templates: (['mail', 'text'] as const).map((channel, i) => ({
    id: i + 1,
    version: 1,
    archived: false,
    name: `For ${channel}`,
    folder: '',
    channel,
    variants: [{ language: '', subject: 'Hello', text: 'Good morning' }],
  })),
  connections: [...(firm.data.connections ?? []), { id: 2, name: 'Gone', address: '', headers: [], archived: true }],
})

interface Kind {
  readonly objects: readonly ObjectKind[]
  readonly form: Readonly<Record<string, Widget>>
  readonly start: object
  readonly params: { safeParse(given: unknown): { readonly success: boolean } }
  check(params: object, names: { catalogue: Catalogue; object: ObjectKind }): readonly { readonly param: string }[]
}

/** Every list of every kind of trigger and step, for each kind of record. */
const lists = Object.entries<Kind>({ ...TRIGGERS, ...STEPS }).flatMap(([name, kind]) =>
  kind.objects.flatMap((object) =>
    Object.entries(kind.form).flatMap(([param, widget]) =>
      isListWidget(widget) && widget.widget !== 'band' && widget.widget !== 'stepBefore'
        ? [{ name, kind, object, param, widget }]
        : [],
    ),
  ),
)

describe('a widget that is a list', () => {
  it.each(lists)('offers for $param of $name ($object) only what it then takes', ({ kind, object, param, widget }) => {
    const place = { here, object, param, params: { ...kind.start } }
    const list = listOfWidget(widget, place)
    expect(list?.options.length).toBeGreaterThan(0)
    for (const { value } of list?.options ?? []) {
      const params = { ...kind.start, [param]: list?.read(value) }
      expect(kind.params.safeParse(params).success, value).toBe(true)
      expect(
        kind.check(params, { catalogue: here, object }).filter((one) => one.param === param),
        value,
      ).toEqual([])
      expect(listOfWidget(widget, { ...place, params })?.current).toBe(value)
    }
  })

  const place = { here, object: 'deal', param: 'chosen', params: { chosen: null } } as const

  it('leaves out who left and what was put away, and shows nothing as chosen where nothing is', () => {
    const connections = listOfWidget({ widget: 'connection' }, place)
    expect(connections?.options.map((one) => one.label)).toEqual(['Order system'])
    expect(connections?.current).toBeNull()
    const people = new Catalogue({
      ...firm.data,
      people: firm.people.map((one) => (one.id === 'rosa' ? { ...one, active: false } : one)),
    })
    const names = listOfWidget({ widget: 'person' }, { ...place, here: people })?.options.map((one) => one.value)
    expect(names).toContain('tomasz')
    expect(names).not.toContain('rosa')
  })

  it('offers the steps before, and what needs one only where there is one', () => {
    const step = { widget: 'stepBefore' } as const
    const pick = {
      widget: 'pick',
      options: [
        { value: 'any', label: 'any' },
        { value: 'step', label: 'of a step', needs: 'steps' },
      ],
    } as const
    expect(listOfWidget(step, place)?.options).toEqual([])
    expect(listOfWidget(pick, place)?.options.map((one) => one.value)).toEqual(['any'])
    const behind = { ...place, here: here.with([], [{ id: 's1', label: '1' }]) }
    expect(listOfWidget(step, behind)?.options).toEqual([{ value: 's1', label: 'step 1' }])
    expect(listOfWidget(pick, behind)?.options.map((one) => one.value)).toEqual(['any', 'step'])
  })

  it('has no bands before a score is chosen, and a template of one’s own counts as none', () => {
    const band = { widget: 'band', of: 'field' } as const
    expect(listOfWidget(band, { ...place, params: { field: null } })).toBeNull()
    expect(listOfWidget(band, { ...place, params: { field: 'amount' } })?.options).toEqual([])
    const template = listOfWidget(
      { widget: 'template', channel: 'channel' },
      { ...place, params: { channel: 'mail', chosen: null } },
    )
    expect(template?.options.map((one) => one.label)).toEqual(['Own text', 'For mail'])
    expect([template?.current, template?.read('')]).toEqual(['', null])
  })
})
