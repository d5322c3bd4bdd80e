import type { Plan } from '@geodrome/core'

/** Letters of a code that a file is named by: a header has room for no more than a few thousand. */
const MOST = 80

/** A name for a file of a plan, of letters that every system takes; without its ending. */
export const fileName = ({ project }: Plan): string =>
  project.code.slice(0, MOST).replaceAll(/[^\w.-]+/g, '-') || 'plan'
