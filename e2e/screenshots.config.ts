import { defineConfig } from '@playwright/test'
import base from './playwright.config.ts'

/** Makes the pictures of docs/screenshots from the demo data; run by scripts/screenshots.mjs. */
export default defineConfig({ ...base, testDir: './screenshots', reporter: [['list']] })
