import { browserTask } from './browserTask.mjs'

/** `npm run bench:web`: what an analyst waits for in the browser, each beside its budget. */
browserTask('bench', 'the browser bench could not be run')
