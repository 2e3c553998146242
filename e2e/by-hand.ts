import type { Page } from '@playwright/test'
import { expect, open } from './app'

/** Begins a rule by keyboard, as a person does, and waits until its sheet can be written on; answers its number. */
export async function beginRule(page: Page, name: string): Promise<number> {
  await open(page, '/rules')
  await page.keyboard.press('n')
  await page.keyboard.type(name)
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/rules\/\d+$/)
  await expect(page.getByRole('textbox', { name: 'Rule name' })).toBeVisible()
  await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
  return Number(new URL(page.url()).pathname.split('/').at(-1))
}

/** Types into the list that has the focus, and takes the first of what is found. */
export async function choose(page: Page, place: string, words: string): Promise<void> {
  await expect(page.getByPlaceholder(place)).toBeFocused()
  await page.keyboard.type(words)
  await page.keyboard.press('Enter')
}

/** A task with a title, added behind the steps that are there. */
export async function addTask(page: Page, title: string): Promise<void> {
  await page.locator('[data-word="add:step/kind"]').press('Enter')
  await choose(page, 'Search steps', 'create a task')
  await expect(page.getByRole('textbox', { name: 'Title' })).toBeFocused()
  await page.keyboard.press('Control+a')
  await page.keyboard.type(title)
  await page.keyboard.press('Enter')
}
