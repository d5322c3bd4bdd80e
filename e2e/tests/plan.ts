import { readFileSync } from 'node:fs'
import { test as base, expect, type Locator, type Page } from '@playwright/test'

export { expect }

/** The application with a plan of the demo open, and the words for what a practitioner does with it. */
export class Desk {
  readonly page: Page
  readonly id: string
  constructor(page: Page, id: string) {
    this.page = page
    this.id = id
  }
  async open(stage = 'network'): Promise<this> {
    await this.page.goto(`/plan/${this.id}/${stage}`)
    await expect(this.page.getByTestId('planned-finish')).not.toHaveText('…')
    return this
  }
  stage(name: string): Promise<void> {
    return this.page.getByRole('navigation', { name: 'Stages' }).getByText(name).click()
  }
  /** The row of an activity in the list. */
  row(code: string): Locator {
    return this.page.getByRole('row').filter({ has: this.page.getByRole('gridcell', { name: code, exact: true }) })
  }
  cell(code: string, column: 'Code' | 'Activity' | 'Duration' | 'Start' | 'Finish' | 'Float'): Locator {
    const at = ['Code', 'Activity', 'Duration', 'Start', 'Finish', 'Float'].indexOf(column)
    return this.row(code).getByRole('gridcell').nth(at)
  }
  select(code: string): Promise<void> {
    return this.cell(code, 'Activity').click()
  }
  /** Types into a cell by keyboard alone and keeps it. */
  async type(code: string, column: 'Duration' | 'Start' | 'Activity', text: string): Promise<void> {
    await this.cell(code, column).click()
    await this.page.getByRole('treegrid').focus()
    await this.page.keyboard.press('Enter')
    const input = this.page.getByRole('treegrid').getByRole('textbox')
    await input.fill(text)
    await this.page.keyboard.press('Enter')
  }
  get finish(): Locator {
    return this.page.getByTestId('planned-finish')
  }
  get news(): Locator {
    return this.page.getByTestId('news')
  }
  get stored(): Locator {
    return this.page.getByTestId('stored')
  }
  get lens(): Locator {
    return this.page.getByRole('complementary', { name: 'Lens' })
  }
  /** The plan as the server holds it. */
  async onServer(): Promise<{ revision: number; plan: { activities: Record<string, never>[]; links: Record<string, never>[]; scenarios: Record<string, never>[] } }> {
    return (await (await this.page.request.get(`/api/plans/${this.id}`)).json()) as never
  }
  duration(code: string): Promise<unknown> {
    return this.onServer().then(({ plan }) => plan.activities.find((a) => a.code === (code as never))!.duration)
  }
}

export const demoFile = (name: 'kiln' | 'kittiwake'): string => readFileSync(new URL(`../../demo/${name}.geodrome.json`, import.meta.url), 'utf8')

/** Each test works on its own copy of a demo plan. */
export const test = base.extend<{ kiln: Desk; kittiwake: Desk }>({
  kiln: async ({ page }, use) => use(await desk(page, 'kiln')),
  kittiwake: async ({ page }, use) => use(await desk(page, 'kittiwake')),
})
const desk = async (page: Page, name: 'kiln' | 'kittiwake'): Promise<Desk> => {
  const response = await page.request.post('/api/plans', { data: demoFile(name), headers: { 'content-type': 'application/json' } })
  const { id } = (await response.json()) as { id: string }
  return new Desk(page, id)
}
