import { runMain } from '../say.mjs'
import { killing } from './killing.mjs'

/** The short form of `npm run torture`, which every test of the server ends with. */
runMain(async () => {
  await killing(8, 1)
  process.exit(0)
})
