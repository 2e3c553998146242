import { describe, expect, it } from 'vitest'
import { document, enters, task } from '../../core/testing/rules'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { daySheet } from '../views/day-sheet'

describe('links', () => {
  it('the first of a kind is the main one; the same pair is linked once', () => {
    const { workspace } = larkmoor()
    const company = (name: string) => workspace.create('company', { name }, [], 'ines').ref
    const [one, two] = [company('One'), company('Two')]
    const deal = workspace.create('deal', { name: 'D', stage: 'hp-sized' }, [one], 'ines').ref
    const { links } = workspace.store
    links.add(deal, two, 'pays', NOW_MS)
    links.add(deal, two, 'again', NOW_MS)
    expect(links.main(deal, 'company')).toBe(one.id)
    expect(links.of(deal)).toEqual([
      { from: deal, to: one, role: '', main: true },
      { from: deal, to: two, role: 'pays', main: false },
    ])
    expect(links.of(two)).toEqual([{ from: deal, to: two, role: 'pays', main: false }])
    expect(links.main(deal, 'contact')).toBeNull()
  })

  it('change their role, and there is one main link of a kind at every moment', () => {
    const { workspace } = larkmoor()
    const { links } = workspace.store
    const companies = ['One', 'Two', 'Three'].map((name) => workspace.create('company', { name }, [], 'ines').ref)
    const contact = workspace.create('contact', { name: 'Ida' }, [], 'ines').ref
    const deal = workspace.create('deal', { name: 'D', stage: 'hp-sized' }, [contact], 'ines').ref
    const mains = () =>
      links
        .of(deal)
        .filter((link) => link.main)
        .map((link) => `${link.to.object} ${link.to.id}`)
    for (const [i, to] of companies.entries()) {
      workspace.link(deal, to, `role ${i}`, i === 1, 'ines')
      expect(mains().filter((main) => main.startsWith('company'))).toHaveLength(1)
    }
    expect(links.main(deal, 'company')).toBe(companies[1]?.id)
    expect(
      links
        .of(deal)
        .filter((link) => link.to.object === 'company')
        .map((link) => link.role),
    ).toEqual(['role 1', 'role 0', 'role 2'])
    expect(mains()).toContain(`contact ${contact.id}`)
    expect(workspace.unlink(deal, companies[1]!, 'ines')).toBe(true)
    expect(links.main(deal, 'company')).toBe(companies[0]?.id)
    expect(workspace.unlink(deal, companies[1]!, 'ines')).toBe(false)
    expect(workspace.unlink(deal, companies[2]!, 'ines')).toBe(true)
    expect(links.main(deal, 'company')).toBe(companies[0]?.id)
    expect(workspace.unlink(deal, companies[0]!, 'ines')).toBe(true)
    expect([links.main(deal, 'company'), mains()]).toEqual([null, [`contact ${contact.id}`]])
  })

  it('go one way only', () => {
    const { workspace } = larkmoor()
    const company = workspace.create('company', { name: 'One' }, [], 'ines').ref
    const deal = workspace.create('deal', { name: 'D', stage: 'hp-sized' }, [], 'ines').ref
    expect(() => workspace.store.links.add(company, deal, '', NOW_MS)).toThrow(
      'a company cannot be linked to a deal in this direction',
    )
  })
})

describe('tasks', () => {
  function day() {
    const { workspace, clock } = larkmoor()
    const due = (count: number, priority: string) =>
      task(`${priority} in ${count}`, { due: { count, unit: 'days' }, priority, again: true })
    switchOn(
      workspace,
      document(
        { when: [enters('hp-quoted')], then: [due(2, 'low'), due(2, 'high'), due(0, 'normal'), due(2, 'normal')] },
        'Quoted',
      ),
    )
    const ref = workspace.create('deal', { name: 'Two rooms', stage: 'hp-quoted', owner: 'rosa' }, [], 'ines').ref
    return { workspace, clock, ref, sheet: (id = 'rosa') => daySheet(workspace, id) }
  }

  it('stand in the order in which to do them: by day, then by priority', () => {
    expect(
      day()
        .sheet()
        .open.map((one) => one.title),
    ).toEqual(['normal in 0', 'high in 2', 'normal in 2', 'low in 2'])
  })

  it('done, opened again, put off and handed over: each act is kept with who and when', () => {
    const { workspace, clock, sheet } = day()
    const { tasks } = workspace.store
    const [first] = sheet().open
    tasks.finish(first!.id, 'rosa', 'reached them', clock.nowMs())
    expect(sheet().open).toHaveLength(3)
    expect(sheet().doneToday).toMatchObject([{ id: first!.id, outcome: 'reached them' }])
    tasks.reopen(first!.id, 'rosa', clock.nowMs())
    tasks.postpone(first!.id, 'rosa', '2026-12-01', clock.nowMs())
    tasks.handOver(first!.id, 'rosa', 'jude', clock.nowMs())
    expect(sheet().doneToday).toEqual([])
    expect(sheet('jude').open).toMatchObject([{ due: '2026-12-01', recordName: 'Two rooms' }])
    expect(sheet('jude').open[0]?.acts.map((act) => act.text)).toEqual([
      'Done by Rosa Amara: reached them',
      'Reopened by Rosa Amara',
      'Postponed by Rosa Amara: 2026-12-01',
      'Handed over by Rosa Amara: Jude Okell',
    ])
    expect(sheet().counts.filter((one) => one.open > 0)).toEqual(
      expect.arrayContaining([
        { personId: 'rosa', open: 3 },
        { personId: 'jude', open: 1 },
      ]),
    )
  })

  it('are listed for programs newest first, by whom, state and rule, page after page', () => {
    const { workspace, clock } = day()
    const { tasks } = workspace.store
    const all = tasks.list({ people: null, before: null, limit: 10 }).map((one) => one.id)
    expect(all).toEqual([...all].sort((a, b) => b - a))
    const first = tasks.list({ people: null, before: null, limit: 3 }).map((one) => one.id)
    const rest = tasks.list({ people: null, before: first.at(-1) ?? null, limit: 3 }).map((one) => one.id)
    expect([...first, ...rest]).toEqual(all)
    tasks.finish(all[0]!, 'rosa', '', clock.nowMs())
    expect(tasks.list({ people: ['rosa'], state: 'done', before: null, limit: 9 }).map((one) => one.id)).toEqual([
      all[0],
    ])
    expect(tasks.list({ people: ['jude'], before: null, limit: 9 })).toEqual([])
    expect(tasks.list({ people: null, ruleId: 1, state: 'open', before: null, limit: 9 })).toHaveLength(3)
    expect(tasks.list({ people: null, ruleId: 2, before: null, limit: 9 })).toEqual([])
  })

  it('what was done before today is not today’s', () => {
    const { workspace, clock, sheet } = day()
    workspace.store.tasks.finish(sheet().open[0]!.id, 'rosa', '', clock.nowMs())
    clock.set(clock.nowMs() + 86_400_000)
    expect(sheet().doneToday).toEqual([])
  })
})

describe('rules in the store', () => {
  it('an edit on an older draft is refused, and versions cannot be changed', () => {
    const { workspace } = larkmoor()
    const { rules } = workspace.store
    const made = document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'One')
    const id = rules.create(made, 'ines', NOW_MS)
    expect(rules.saveDraft(id, { ...made, name: 'Two' }, 1, 'ines', NOW_MS)).toBe(2)
    expect(rules.saveDraft(id, { ...made, name: 'Three' }, 1, 'maren', NOW_MS)).toBeNull()
    expect(rules.get(id)).toMatchObject({ draft: { name: 'Two' }, version: null, changedBy: 'ines' })
    expect([
      rules.publish(id, made, 'ines', NOW_MS),
      rules.publish(id, { ...made, name: 'Two' }, 'ines', NOW_MS),
    ]).toEqual([1, 2])
    expect(() => workspace.db.sqlite.prepare("UPDATE rule_versions SET document = '{}'").run()).toThrow(
      'cannot be changed',
    )
    expect(() => workspace.db.sqlite.prepare('DELETE FROM rule_versions').run()).toThrow('cannot be deleted')
  })

  it('a stored document that no longer fits is set aside with path and reason, never run', () => {
    const { workspace, reopen } = larkmoor()
    const id = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }))
    workspace.db.sqlite.exec('DROP TRIGGER rule_versions_stay')
    workspace.db.sqlite
      .prepare(`UPDATE rule_versions SET document = json_set(document, '$.steps[0].kind', 'launch') WHERE rule_id = ?`)
      .run(id)
    // What is read anew, as after a start, is looked at.
    const again = reopen()
    expect(again.store.rules.active()).toEqual([])
    expect(again.store.rules.get(id)?.version).toMatchObject({ problem: expect.stringMatching(/^steps\.0/) as string })
  })
})

describe('answers kept under a key', () => {
  it('belong to a person, are found again, and are forgotten after a day', () => {
    const { workspace } = larkmoor()
    const { answers } = workspace.store
    const kept = { fingerprint: 'f', answer: { ref: { object: 'deal', id: 3 } }, tag: '"2"' }
    answers.keep('rosa', 'k', kept, NOW_MS)
    expect(answers.get('rosa', 'k')).toEqual(kept)
    expect([answers.get('jude', 'k'), answers.get('rosa', 'other')]).toEqual([null, null])
    expect(() => answers.keep('rosa', 'k', kept, NOW_MS)).toThrow(/UNIQUE/)
    answers.keep('rosa', 'late', { ...kept, tag: null }, NOW_MS + 24 * 3_600_000)
    expect(answers.get('rosa', 'k')).toEqual(kept)
    answers.keep('rosa', 'later', kept, NOW_MS + 24 * 3_600_000 + 1)
    expect([answers.get('rosa', 'k'), answers.get('rosa', 'late')?.tag]).toEqual([null, null])
  })
})

describe('columns remembered by their headings', () => {
  it('are those of the last file that had them', () => {
    const { workspace } = larkmoor()
    const { imports } = workspace.store
    const mapping = {
      object: 'contact',
      knownBy: 'email',
      targets: [{ to: 'field', field: 'name' }],
      decimal: 'comma',
      dateOrder: 'dayFirst',
    } as const
    imports.remember('["name"]', { ...mapping, targets: [...mapping.targets] }, NOW_MS)
    imports.remember('["name"]', { ...mapping, knownBy: null, targets: [{ to: 'skip' }] }, NOW_MS + 1)
    expect(imports.remembered('["name"]')).toEqual({ ...mapping, knownBy: null, targets: [{ to: 'skip' }] })
    expect(imports.remembered('["other"]')).toBeNull()
  })

  it('files from before rows could be anything but deals are of deals', () => {
    const { workspace } = larkmoor()
    const { imports } = workspace.store
    workspace.db.sqlite
      .prepare(
        "INSERT INTO imports (file_name, mapping, state, rules_on, position, person_id, created_at) VALUES ('old.csv', ?, 'ready', 1, 0, 'ines', 1)",
      )
      .run(JSON.stringify({ targets: [], decimal: 'point', dateOrder: 'dayFirst' }))
    const [line] = imports.list()
    expect([line?.object, imports.get(line?.id ?? 0)?.mapping]).toEqual([
      'deal',
      { object: 'deal', knownBy: null, targets: [], decimal: 'point', dateOrder: 'dayFirst' },
    ])
  })
})
