#!/usr/bin/env node
import { existsSync } from 'node:fs'

const main = new URL('../dist/main.js', import.meta.url)
if (!existsSync(main)) {
  process.stderr.write(
    'geodrome is not built yet: run "npm install" (or "npm run build") in the project first\n',
  )
  process.exitCode = 2
} else await import(main.href)
