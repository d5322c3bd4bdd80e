import { readFileSync } from 'node:fs'
import { test as base, expect, type Locator, type Page } from '@playwright/test'

export { expect, type Page }

/** How long it may take until the page says that something is being stored. */
const SAID_MS = 150

type Items = Record<string, never>[]
interface StoredPlan {
  project: Record<string, never>
  activities: Items
  risks: Items
  resources: { id: string; code: string }[]
  assignments: { activity: string; resource: string }[]
  acceptances: Items
  baselines: { name: string }[]
  reviews: Items
  links: Items
  groups: Items
  calendars: Items
  scenarios: Items
  scenarioChanges: Items
}

/** Chooses from a list of choices by what it says, as a pointer does. */
export const choose = async (page: Page, label: string, option: string | RegExp): Promise<void> => {
  const field = page.getByRole('combobox', { name: new RegExp(`^${label}(:|$)`) })
  await field.click()
  // Of several that say the same the first: the list begins with what was changed last.
  const chosen = page
    .getByRole('listbox', { name: label })
    .getByRole('option', { name: option, exact: true })
    .first()
  const words = (await chosen.textContent())!.trim()
  await chosen.click()
  await expect(field).toHaveAccessibleName(`${label}: ${words}`)
}

/** Saves something that stands on the page as a file. @returns its name and what it holds */
export const savedAs = async (
  page: Page,
  name: string,
  kind: 'SVG' | 'PNG' | 'CSV' | 'XLSX',
): Promise<{ readonly name: string; readonly bytes: Buffer }> => {
  await page.getByRole('button', { name: `Save “${name}” as` }).click()
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    // A list that was chosen from before may still fade away.
    page.locator('.n-dropdown-option:visible').filter({ hasText: kind }).last().click(),
  ])
  return { name: file.suggestedFilename(), bytes: readFileSync((await file.path())!) }
}

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
    // Opening takes two seconds on a quiet machine, and much of a minute on one that is not.
    await expect(this.page.getByTestId('planned-finish')).not.toHaveText('…', { timeout: 90_000 })
    return this
  }
  /** Goes to another stage or part as a link does, without loading the page anew. */
  async go(stage: string): Promise<void> {
    await this.page.evaluate((path) => {
      history.pushState(null, '', path)
      dispatchEvent(new PopStateEvent('popstate', { state: null }))
    }, `/plan/${this.id}/${stage}`)
  }
  stage(name: string): Promise<void> {
    return this.page.getByRole('navigation', { name: 'Stages' }).getByText(name).click()
  }
  /** The row of an activity in the list. */
  row(code: string): Locator {
    return this.page
      .getByRole('row')
      .filter({ has: this.page.getByRole('gridcell', { name: code, exact: true }) })
  }
  cell(code: string, column: 'Code' | 'Activity' | 'Duration' | 'Start' | 'Finish' | 'Float'): Locator {
    const at = ['Code', 'Activity', 'Duration', 'Start', 'Finish', 'Float'].indexOf(column)
    return this.row(code).getByRole('gridcell').nth(at)
  }
  select(code: string): Promise<void> {
    return this.cell(code, 'Activity').click()
  }
  /** Types into a cell by keyboard alone. @returns what is typed into */
  async begin(code: string, column: 'Duration' | 'Start' | 'Activity', text: string): Promise<Locator> {
    await this.cell(code, column).click()
    await this.page.getByRole('treegrid').focus()
    await this.page.keyboard.press('Enter')
    const input = this.page.getByRole('treegrid').getByRole('textbox')
    await input.fill(text)
    return input
  }
  /** {@link begin}, and keeps it. */
  async type(code: string, column: 'Duration' | 'Start' | 'Activity', text: string): Promise<void> {
    await this.begin(code, column, text)
    await this.page.keyboard.press('Enter')
  }
  /** Selects several rows, first to last. */
  async selectAll(...codes: string[]): Promise<void> {
    for (const [k, code] of codes.entries())
      await this.cell(code, 'Activity').click(k === 0 ? {} : { modifiers: ['Control'] })
  }
  /** Types a line for a new activity and keeps it. */
  async addLine(text: string): Promise<void> {
    await this.page.getByTestId('entry').fill(text)
    await this.page.keyboard.press('Enter')
  }
  /** Pastes a text where the keyboard is. */
  paste(text: string): Promise<void> {
    return this.page.getByRole('treegrid').evaluate((grid, pasted) => {
      const data = new DataTransfer()
      data.setData('text/plain', pasted)
      grid.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
    }, text)
  }
  /** What is drawn in a row of the Ground: the box of its bar on the screen. */
  async bar(code: string): Promise<{ x: number; y: number; width: number; height: number }> {
    const box = await this.page
      .locator('.shape', { has: this.page.locator('title', { hasText: `${code} ` }) })
      .locator('.hit')
      .first()
      .boundingBox()
    return box!
  }
  /** Drags with the mouse from one place to another. */
  async drag(from: readonly [number, number], to: readonly [number, number]): Promise<void> {
    await this.page.mouse.move(...from)
    await this.page.mouse.down()
    await this.page.mouse.move(...to, { steps: 6 })
    await this.page.mouse.up()
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
  async onServer(): Promise<{ revision: number; plan: StoredPlan }> {
    // What was done just now is on its way: that it is stored is said a moment after it is seen.
    if (await this.stored.isVisible()) {
      await this.page.waitForTimeout(SAID_MS)
      await expect(this.stored).not.toContainText('Storing')
    }
    return (await (await this.page.request.get(`/api/plans/${this.id}`)).json()) as never
  }
  duration(code: string): Promise<unknown> {
    return this.onServer().then(
      ({ plan }) => plan.activities.find((a) => a.code === (code as never))!.duration,
    )
  }
}

type DemoName = 'kiln' | 'kittiwake' | 'kittiwake-may'
export const demoFile = (name: DemoName): string =>
  readFileSync(new URL(`../../demo/${name}.geodrome.json`, import.meta.url), 'utf8')

/** Each test works on its own copy of a demo plan. */
export const test = base.extend<{ kiln: Desk; kittiwake: Desk; update: Desk }>({
  kiln: async ({ page }, use) => use(await desk(page, 'kiln')),
  kittiwake: async ({ page }, use) => use(await desk(page, 'kittiwake')),
  update: async ({ page }, use) => use(await desk(page, 'kittiwake-may')),
})
const desk = async (page: Page, name: DemoName): Promise<Desk> => {
  const response = await page.request.post('/api/plans', {
    data: demoFile(name),
    headers: { 'content-type': 'application/json' },
  })
  const { id } = (await response.json()) as { id: string }
  return new Desk(page, id)
}
