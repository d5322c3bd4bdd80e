import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect, type Page } from '@playwright/test'
import type axe from 'axe-core'

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** What a theme can change. */
const OF_COLOUR = ['color-contrast', 'link-in-text-block']

/** Brings the page to the other theme, as another tab of the same person does. @returns its name */
const otherTheme = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const key = 'geodrome-theme'
    const paper = (): string => getComputedStyle(document.body).backgroundColor
    const before = paper()
    const theme = localStorage.getItem(key) === 'dusk' ? 'daylight' : 'dusk'
    localStorage.setItem(key, theme)
    dispatchEvent(new StorageEvent('storage', { key, newValue: theme, storageArea: localStorage }))
    const frame = (): Promise<unknown> => new Promise((drawn) => requestAnimationFrame(drawn))
    for (let frames = 0; paper() === before; frames++) {
      if (frames > 300) throw new Error(`the page does not turn to ${theme}`)
      await frame()
    }
    // Drawings follow in a frame of their own.
    await frame()
    await frame()
    return theme
  })

/** Serious faults that axe finds in the page. Only they are sent over: all that it found right would take most of the time. */
const faultsIn = (page: Page, rules: readonly string[] | null): Promise<string[]> =>
  page.evaluate(async (only) => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(document, {
      resultTypes: ['violations'],
      ...(only && { runOnly: { type: 'rule', values: [...only] } }),
    })
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(
        ({ id, nodes }) =>
          `${id} ${nodes
            .slice(0, 3)
            .map((node) => node.target.join(' '))
            .join(', ')}`,
      )
  }, rules)

/**
 * That the page is free of serious faults in the theme it has, and of those of colour in the other one, which it keeps: the next page is
 * looked at the other way round.
 */
export const isAccessible = async (page: Page, where: string): Promise<void> => {
  await page.evaluate(AXE)
  const faults = (await faultsIn(page, null)).map((fault) => `${where}: ${fault}`)
  const other = await otherTheme(page)
  faults.push(...(await faultsIn(page, OF_COLOUR)).map((fault) => `${where}, ${other}: ${fault}`))
  expect(faults).toEqual([])
}
