import { found, IN_POPOVER } from './axe'
import { expect, newDeal, open, ownRules, setRule, test } from './app'
import { beginRule, choose } from './by-hand'
import { set, values, change, runsOf } from './deal-steps'

const enters = (stage: string) => ({ id: 't1', kind: 'entersStage', params: { stage } })

const move = (stage: string) => ({ id: 's1', kind: 'moveStage', params: { stage, backwards: true, across: false } })

const { newRule, keep } = ownRules()

test('a thank-you by decision table is written like a spreadsheet, preflight finds its hole, and a signed deal gets its own task', async ({
  page,
  request,
}) => {
  const id = await beginRule(page, 'Thank by size')
  keep(id)
  await page.locator('[data-word="add:trigger/kind"]').press('Enter')
  await choose(page, 'Search triggers', 'enters')
  await choose(page, 'Search stages', 'signed')
  await page.locator('[data-word="add:step/kind"]').press('Enter')
  await choose(page, 'Search steps', 'decide by a table')
  await choose(page, 'Search fields', 'amount')
  await page.locator('[data-add-output]').click()
  await page.locator('[data-output]').fill('Thanks')
  await page.locator('[data-output]').press('Tab')
  await page.locator('[data-add-row]').click()
  await expect(page.locator('[data-cell="0.0"]')).toBeFocused()
  // Pasted from a spreadsheet, with a hole at 40,000 itself and one for what is empty.
  await page.locator('[data-cell="0.0"]').evaluate((cell) => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text/plain', '< 10000\tcard\n[10000..40000)\thamper\n> 40000\tvisit\n')
    cell.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
  })
  await expect(page.locator('[data-holes]')).toContainText('exactly €40,000')
  // A border that nobody has said is refused at its cell, and stays to be fixed.
  await page.locator('[data-cell="1.0"]').fill('10000..40000')
  await page.locator('[data-cell="1.0"]').press('Tab')
  await expect(page.locator('[data-table]')).toContainText('Add brackets')
  await page.locator('[data-cell="1.0"]').fill('[10000..40000)')
  await page.locator('[data-cell="1.0"]').press('Tab')
  await expect(page.locator('[data-cell="1.0"]')).toHaveAttribute('aria-invalid', 'false')

  await page.getByRole('tab', { name: /Preflight/ }).click()
  const hole = page.locator('[data-finding="tableHoles"]').filter({ hasText: 'not covered by any row' }).first()
  await expect(hole).toBeVisible()
  await hole.focus()
  await page.keyboard.press('f')
  await expect(page.locator('[data-cell="3.1"]')).toBeVisible()
  // One row for the border, one for what is empty.
  await page.locator('[data-cell="3.1"]').fill('visit')
  await page.locator('[data-cell="3.1"]').press('Tab')
  await page.locator('[data-cell="4.1"]').fill('card')
  await page.locator('[data-cell="4.1"]').press('Tab')
  await expect(page.locator('[data-holes]')).toHaveCount(0)

  // What the table found is named in the task.
  await page.locator('[data-word="add:step/kind"]').press('Enter')
  await choose(page, 'Search steps', 'create a task')
  await page.locator('[data-merge]').fill('Thank with {{s1.thanks}} ')
  await page.getByRole('dialog', { name: 'Edit Title' }).getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.locator('[data-line="step:s2"]')).toContainText('Thanks (step 1)', { ignoreCase: true })
  expect(await found(page)).toEqual([])
  await page.locator('[data-switch-on]').click()
  await page.locator('[data-confirm]').click()
  await expect(page.locator('[data-state]')).toContainText('On')

  const outcome = async (amount: number | null): Promise<string> => {
    const deal = await newDeal(request, { amount })
    await change(request, deal.id, { stage: 'hp-signed' })
    return (await runsOf(request, id)).find((run) => run.ref.id === deal.id)?.outcome ?? ''
  }
  expect(await outcome(40_000.01)).toContain('“Thank with visit”')
  expect(await outcome(40_000)).toContain('“Thank with visit”')
  expect(await outcome(10_000)).toContain('“Thank with hamper”')
  expect(await outcome(null)).toContain('“Thank with card”')
})

test('two rules that push a deal back and forth are found by preflight before, cut when they run, and may be let stand', async ({
  page,
  request,
}) => {
  const forth = await newRule(request, 'Forth', { triggers: [enters('hp-quoted')], steps: [move('hp-terms')] })
  const back = await newRule(request, 'Back', { triggers: [enters('hp-terms')], steps: [move('hp-quoted')] })
  await open(page, '/preflight?severity=error')
  const circle = page.locator('[data-finding="circles"]').filter({ hasText: 'Loops with “Back”' })
  await expect(circle).toContainText('“Forth” sets stage to Terms (step 1), which triggers “Back”')
  expect(await found(page)).toEqual([])
  await circle.focus()
  await page.keyboard.press('l')
  await page.getByLabel('Reason for accepting').fill('for the test')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Accepted' })).toContainText('for the test')

  const deal = await newDeal(request, { stage: 'hp-sized' })
  await change(request, deal.id, { stage: 'hp-quoted' })
  const cut = (await runsOf(request, forth)).find((run) => run.ref.id === deal.id && run.state === 'stopped')
  expect(cut?.outcome).toContain('to prevent a loop')
  expect((await runsOf(request, back)).filter((run) => run.ref.id === deal.id)).toHaveLength(1)
})

test('records that match at switch-on are let through; a run, and all of a day, are taken back', async ({
  page,
  request,
}) => {
  const marks = ['Through A', 'Through B', 'Through C'].map((one) => `${one} ${process.pid}`)
  const deals = await Promise.all(
    marks.map((reference) => newDeal(request, { reference, units: 1, stage: 'ren-ended' })),
  )
  const { id } = (await (
    await request.post('/api/v1/rules', { data: { name: 'Let through', object: 'deal' } })
  ).json()) as { id: number }
  keep(id)
  const only = {
    kind: 'group',
    id: 'c0',
    mode: 'all',
    items: [{ kind: 'condition', id: 'c1', field: 'reference', op: 'isAnyOf', not: false, params: { values: marks } }],
  }
  await request.put(`/api/v1/rules/${id}/draft`, {
    data: {
      rev: 1,
      document: {
        format: 2,
        name: 'Let through',
        description: '',
        object: 'deal',
        triggers: [enters('ren-ended')],
        conditions: only,
        steps: [set('s1', 'units', 5)],
      },
    },
  })
  await open(page, `/rules/${id}`)
  await expect(page.locator('[data-matched]')).toHaveText('3')
  await page.locator('[data-switch-on]').click()
  await page.locator('[data-through]').check()
  await page.locator('[data-confirm]').click()
  await expect(page.locator('[data-job-state]')).toHaveText('Done: 3 of 3')
  for (const deal of deals) expect((await values(request, deal.id)).units).toBe(5)

  // One of them has something newer since.
  await change(request, deals[2]!.id, { units: 9 })
  const run = (await runsOf(request, id)).find((one) => one.ref.id === deals[0]!.id)
  await open(page, `/journal/${run?.id}`)
  await page.locator('[data-undo]').click()
  await expect(page.getByRole('region', { name: 'Undo this run' })).toContainText('units back to 1')
  await page.locator('[data-take-back]').click()
  await expect(page.locator('[data-undone]')).toContainText('Undone by Ines Calloway')
  expect((await values(request, deals[0]!.id)).units).toBe(1)

  await open(page, `/rules/${id}`)
  await page.getByRole('button', { name: 'Undo what it did' }).click()
  const dialog = page.getByRole('dialog', { name: 'Undo what this rule did' })
  await expect(dialog).toContainText('1 of 2 runs can be undone')
  await expect(dialog).toContainText('has a newer value, 9')
  await dialog.getByRole('button', { name: 'Undo' }).click()
  await expect(page.locator('[data-job]').filter({ hasText: 'Undoing' })).toContainText('1 change could not be undone')
  expect(await Promise.all(deals.map(async (deal) => (await values(request, deal.id)).units))).toEqual([1, 1, 9])
})

test('a button on the record shows facts, asks, and tells the one who gets the deal', async ({ page, request }) => {
  const id = await newRule(request, 'Pass on', {
    triggers: [
      {
        id: 't1',
        kind: 'byHand',
        params: {
          button: 'Pass on',
          facts: ['amount'],
          questions: [{ key: 'why', label: 'Why is that?', type: 'choice', choices: ['Ill', 'Full'], required: true }],
        },
      },
    ],
    steps: [
      {
        id: 's1',
        kind: 'assignOwner',
        params: { person: null, replace: true, who: { by: 'turn', people: ['ines', 'rosa'] } },
      },
      {
        id: 's2',
        kind: 'notify',
        params: { who: { by: 'owner' }, subject: '{{deal.name}} is yours', body: '{{t1.why}}', email: false },
      },
    ],
  })
  const [deal, second] = [await newDeal(request, { amount: 4321 }), await newDeal(request, {})]
  await open(page, `/records/deals/${deal.id}`)
  await page.getByRole('button', { name: 'Pass on' }).click()
  const panel = page.getByRole('dialog', { name: 'Pass on' })
  await expect(panel).toContainText('€4,321')
  await expect(panel.getByRole('button', { name: 'Pass on' })).toBeDisabled()
  await panel.getByLabel('Why is that?').selectOption('Ill')
  expect(await found(page, IN_POPOVER)).toEqual([])
  await panel.getByRole('button', { name: 'Pass on' }).click()
  await expect(page.getByText(`notified Ines Calloway: “${deal.name} is yours”`).first()).toBeVisible()
  await expect(page.locator('[data-unread]')).toBeVisible()
  await page.locator('[data-bell]').click()
  await expect(page.getByRole('dialog', { name: 'Notifications' })).toContainText(`${deal.name} is yours`)
  await page.keyboard.press('Escape')
  await expect(page.locator('[data-unread]')).toHaveCount(0)
  // The next one in turn gets the next.
  await request.post(`/api/v1/records/deal/${second.id}/manual-runs`, {
    data: { rule: id, trigger: 't1', answers: { why: 'Full' } },
  })
  expect((await values(request, second.id)).owner).toBe('rosa')

  const refused = await request.post(`/api/v1/records/deal/${deal.id}/manual-runs`, {
    data: { rule: id, trigger: 't1', answers: { why: 'Bored', more: 1 } },
  })
  expect([
    refused.status(),
    ((await refused.json()) as { places: { path: string }[] }).places.map((place) => place.path),
  ]).toEqual([422, ['more', 'why']])
  expect(
    (await request.post(`/api/v1/records/deal/${deal.id}/manual-runs`, { data: { rule: id, trigger: 't9' } })).status(),
  ).toBe(404)
})

test('a rule is kept as a file, begun from one, and refused with the line and the reason', async ({
  page,
  request,
}) => {
  const rule = await newRule(request, 'Kept as a file', {
    triggers: [enters('hp-quoted')],
    steps: [set('s1', 'units', 2)],
  })
  const text = await (await request.get(`/api/v1/rules/${rule}/text`)).text()
  expect(text).toContain('name: Kept as a file')
  expect(await (await request.get(`/api/v1/rules/${rule}/text`, { params: { as: 'words' } })).text()).toContain(
    '1. set the units to 2',
  )
  await open(page, '/rules')
  await page.locator('input[type=file]').setInputFiles({
    name: 'rule.yaml',
    mimeType: 'application/yaml',
    buffer: Buffer.from(text.replace('Kept as a file', 'Begun from a file')),
  })
  await expect(page).toHaveURL(/\/rules\/\d+$/)
  await expect(page.getByRole('textbox', { name: 'Rule name' })).toBeVisible()
  keep(Number(new URL(page.url()).pathname.split('/').at(-1)))
  await expect(page.getByLabel('Rule name')).toHaveValue('Begun from a file')
  await expect(page.locator('[data-state]')).toContainText('Draft')
  const refusal = async (given: string) => {
    const answer = await request.post('/api/v1/rules/files', { data: { text: given } })
    return [answer.status(), ((await answer.json()) as { places: { text: string }[] }).places[0]?.text]
  }
  expect(await refusal('name: [')).toEqual([422, expect.stringMatching(/^Line \d+, column \d+/)])
  expect(await refusal(text.replace('kind: setField', 'kind: launch'))).toEqual([
    422,
    expect.stringContaining('steps.0.kind'),
  ])
  const schema = (await (await request.get('/api/v1/rule-schema')).json()) as { $schema: string }
  expect(schema.$schema).toContain('2020-12')
})

test('rules are found by what they touch, in the address, and their order is changed in place', async ({
  page,
  request,
}) => {
  const name = `Found by field ${process.pid}`
  const id = await newRule(request, name, {
    triggers: [enters('hp-quoted')],
    steps: [set('s1', 'lostReason', null)].map((step) => ({
      ...step,
      params: { field: 'lostReason', source: { from: 'empty' } },
    })),
  })
  await open(page, '/rules')
  await page.getByLabel('Uses field').selectOption('deal.lostReason')
  await page.getByLabel('Search rules').fill('found by field')
  await expect(page).toHaveURL(/field=deal\.lostReason.*words=found/)
  await expect(page.getByRole('link', { name })).toBeVisible()
  await page.getByLabel('Trigger').selectOption('entersStage')
  await page.reload()
  await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
  await expect(page.getByRole('link', { name })).toBeVisible()
  await page.getByLabel(`Order of ${name}`).fill('7')
  await page.getByLabel(`Order of ${name}`).press('Tab')
  await expect
    .poll(
      async () =>
        ((await (await request.get('/api/v1/rules')).json()) as { rules: { id: number; order: number }[] }).rules.find(
          (rule) => rule.id === id,
        )?.order,
    )
    .toBe(7)
  await page.getByLabel('Problem').selectOption('paused')
  await expect(page.getByText('No rules match.')).toBeVisible()
  expect(await found(page)).toEqual([])
})

test('records are made, qualified and unlinked by rules, and what a run made goes when it is taken back', async ({
  request,
}) => {
  const create = async (object: string, given: object) =>
    (
      (await (await request.post(`/api/v1/records/${object}`, { data: { values: given } })).json()) as {
        ref: { id: number }
      }
    ).ref.id
  const document = async (name: string, object: string, steps: readonly object[]) => {
    const { id } = (await (await request.post('/api/v1/rules', { data: { name, object } })).json()) as { id: number }
    keep(id)
    const saved = await request.put(`/api/v1/rules/${id}/draft`, {
      data: {
        rev: 1,
        document: {
          format: 2,
          name,
          description: '',
          object,
          triggers: [{ id: 't1', kind: 'byHand', params: { button: name, facts: [], questions: [] } }],
          conditions: { kind: 'group', id: 'c0', mode: 'all', items: [] },
          steps,
        },
      },
    })
    expect(saved.ok(), await saved.text()).toBe(true)
    await setRule(request, id, 'on')
    return id
  }
  const press = async (object: string, record: number, rule: number) =>
    (await (
      await request.post(`/api/v1/records/${object}/${record}/manual-runs`, { data: { rule, trigger: 't1' } })
    ).json()) as { run: number; state: string; text: string }
  const linksOf = async (object: string, id: number) =>
    (
      (await (await request.get(`/api/v1/records/${object}/${id}/links`)).json()) as {
        links: { ref: { object: string; id: number }; name: string }[]
      }
    ).links

  const contact = await create('contact', {
    name: 'Ana Quill',
    email: `ana@quill-${process.pid}.example`,
    owner: 'rosa',
  })
  const qualify = await document('Qualify her', 'contact', [
    {
      id: 's1',
      kind: 'qualify',
      params: { stage: 'enq-fresh', name: 'Enquiry of {{contact.name}}', company: true, again: false },
    },
  ])
  const made = await press('contact', contact, qualify)
  expect(made).toMatchObject({ state: 'done', text: expect.stringContaining('created deal “Enquiry of Ana Quill”') })
  const links = await linksOf('contact', contact)
  expect(links.map((link) => [link.ref.object, link.name]).sort()).toEqual([
    ['company', `Quill-${process.pid}`],
    ['deal', 'Enquiry of Ana Quill'],
  ])
  const deal = links.find((link) => link.ref.object === 'deal')!.ref.id
  expect(await linksOf('deal', deal)).toHaveLength(2)
  expect((await press('contact', contact, qualify)).text).toContain('“Enquiry of Ana Quill” is already open there')

  const part = await document('Part them', 'contact', [
    { id: 's1', kind: 'unlink', params: { to: 'company', which: 'all' } },
  ])
  const parted = await press('contact', contact, part)
  expect((await linksOf('contact', contact)).map((link) => link.ref.object)).toEqual(['deal'])
  await request.post(`/api/v1/runs/${parted.run}/undo`)
  expect(await linksOf('contact', contact)).toHaveLength(2)

  const next = await document('Next term', 'deal', [
    {
      id: 's1',
      kind: 'createRecord',
      params: { make: 'deal', name: '{{deal.name}} again', stage: 'ren-due', again: true },
    },
    {
      id: 's2',
      kind: 'setField',
      params: { field: 'notes', source: { from: 'linked', via: 'company', field: 'name' } },
    },
    {
      id: 's3',
      kind: 'setField',
      params: { field: 'notes', source: { from: 'add', value: 'next: {{no merge here}}' } },
    },
  ])
  const followed = await press('deal', deal, next)
  expect(followed.state).toBe('done')
  expect((await values(request, deal)).notes).toBe(`Quill-${process.pid}\nnext: {{no merge here}}`)
  const undone = (await (await request.post(`/api/v1/runs/${followed.run}/undo`)).json()) as { undone: string[] }
  expect(undone.undone).toEqual(['notes back to empty', '“Enquiry of Ana Quill again” deleted'])
  expect((await values(request, deal)).notes).toBeNull()
})

test('a deal is not moved beside an open one of its company unless that is allowed', async ({ request }) => {
  const company = (
    (await (
      await request.post('/api/v1/records/company', { data: { values: { name: `Twice ${process.pid}` } } })
    ).json()) as { ref: { id: number } }
  ).ref
  const [first, second] = [
    await newDeal(request, { stage: 'hp-sized' }),
    await newDeal(request, { stage: 'enq-fresh' }),
  ]
  for (const deal of [first, second])
    await request.post(`/api/v1/records/deal/${deal.id}/links`, { data: { to: { object: 'company', id: company.id } } })
  const rule = await newRule(request, 'Across', {
    triggers: [{ id: 't1', kind: 'fieldChanges', params: { field: 'units', how: 'anything', from: null, to: null } }],
    steps: [{ id: 's1', kind: 'moveStage', params: { stage: 'hp-visit', backwards: false, across: true } }],
  })
  await change(request, second.id, { units: 1 })
  expect((await runsOf(request, rule))[0]?.outcome).toContain(
    `“${first.name}” of the same company is already open there`,
  )
  await change(request, first.id, { stage: 'hp-lost' })
  await change(request, second.id, { units: 2 })
  expect((await values(request, second.id)).stage).toBe('hp-visit')
})
