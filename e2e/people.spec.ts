import { expect, open, test } from './app'

test('making somebody inactive says first what is planned for them; going away asks who steps in', async ({
  page,
  request,
}) => {
  await open(page, '/people')
  await page.getByRole('button', { name: 'Edit Rosa Amara' }).click()
  const form = page.getByRole('form', { name: 'Rosa Amara' })
  await form.getByLabel('Active').uncheck()
  await form.getByRole('button', { name: 'Save' }).click()
  const question = page.getByRole('alertdialog')
  await expect(question).toContainText('Make Rosa Amara inactive?')
  await expect(question).toContainText(/owner of \d+ deals/)
  await expect(question).toContainText(/New tasks go to/)
  await page.keyboard.press('Enter')
  await expect(question).toBeHidden()
  await form.getByLabel('Active').check()

  await form.getByLabel('Deputy').selectOption('')
  await form.getByLabel('Away from').fill('2027-03-01')
  await form.getByLabel('Until').fill('2027-03-05')
  await form.getByRole('button', { name: 'Save' }).click()
  await expect(question).toContainText('Who steps in for Rosa Amara?')
  await question.getByLabel('Deputy').selectOption('jude')
  await question.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('row', { name: /^Rosa Amara rosa@/ })).toContainText('deputy Jude Okell')
  const back = await request.patch('/api/v1/people/rosa', { data: { awayFrom: null, awayTo: null } })
  expect(back.ok()).toBe(true)
})
