import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect, type Page } from '@playwright/test'
import type axe from 'axe-core'

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** Serious faults that axe finds in the page. Only they are sent over: all that it found right would take most of the time. */
export const isAccessible = async (page: Page, where: string): Promise<void> => {
  await page.evaluate(AXE)
  const faults = await page.evaluate(async () => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(document, {
      resultTypes: ['violations'],
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
  })
  expect(faults.map((fault) => `${where}: ${fault}`)).toEqual([])
}
