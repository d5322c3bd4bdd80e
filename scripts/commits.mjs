import { spawnSync } from 'node:child_process'
import { ROOT } from './install.mjs'
import { say } from './say.mjs'

/** `npm run commits`: a commit's subject says what changed within 72 characters, its body why. */
const MOST = 72
/** The last commit before the rule. */
const SINCE = 'eabb005'

const git = (...args) => spawnSync('git', args, { cwd: ROOT, encoding: 'utf8' })
const { status, stdout } = git('log', '--no-merges', '--format=%h%x00%s%x00%b%x01', `${SINCE}..HEAD`)
if (status !== 0) say(`not checked: this copy has no history back to ${SINCE}`)
else {
  const faults = stdout
    .split('\x01')
    .map((entry) => entry.trim().split('\0'))
    .filter(([hash]) => hash)
    .flatMap(([hash, subject, body]) => [
      ...(subject.length > MOST
        ? [`${hash}: the subject has ${subject.length} letters, at most ${MOST}: ${subject}`]
        : []),
      ...(body ? [] : [`${hash}: the body does not say why: ${subject}`]),
    ])
  for (const fault of faults) say(fault)
  process.exit(faults.length === 0 ? 0 : 1)
}
