import { z } from 'zod'
import { planFileSchema } from './schema.ts'

/** JSON Schema of the plan file, made from the Zod schema: what other people's programs validate against. */
export const planFileJsonSchema = (): object => ({
  $comment: 'Made from core/src/plan/schema.ts by "npm run schema"; do not edit.',
  title: 'Geodrome plan file, version 1',
  ...z.toJSONSchema(planFileSchema, { io: 'input', unrepresentable: 'any' }),
})
