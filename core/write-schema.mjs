import { writeFileSync } from 'node:fs'
import { planFileJsonSchema } from './src/index.ts'

/** `npm run schema`: writes the published JSON Schema of the plan file. */
writeFileSync(
  new URL('../docs/plan-file.schema.json', import.meta.url),
  JSON.stringify(planFileJsonSchema(), null, 2) + '\n',
)
