import { browserTask } from './browserTask.mjs'

/** `npm run screenshots`: makes docs/screenshots anew from the demo data. */
browserTask('screenshots', 'the pictures could not be made')
