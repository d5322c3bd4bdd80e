import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { say, Stop } from '../say.mjs'
import { random, startApplication } from './application.mjs'
import { edit, importPlan } from './edits.mjs'
import { verify } from './verify.mjs'

const PEOPLE = 10
const SERVERS = 2

/**
 * Ten people edit one plan over two servers while these and the database are killed at random; then what was acknowledged is held
 * against what is stored. @throws Stop with what was lost or half done
 */
export const killing = async (kills, seed) => {
  const folder = mkdtempSync(join(tmpdir(), 'geodrome-torture-'))
  const application = await startApplication(folder, { servers: SERVERS })
  const roll = random(seed)
  const id = await importPlan(application.addresses()[0])
  let isOver = false
  const people = Promise.all(
    Array.from({ length: PEOPLE }, (_, k) =>
      edit(id, application.addresses, `person-${k}`, random(seed * 1000 + k), () => isOver),
    ),
  )
  for (let k = 1; k <= kills; k++) {
    await wait(200 + roll() * 1500)
    if (roll() < 0.3) application.killDatabase()
    else application.killServer(Math.floor(roll() * SERVERS))
    if (k % 20 === 0) say(`${k} of ${kills} kills`)
    if (roll() < 0.5) await application.healthy()
  }
  await application.healthy()
  isOver = true
  const done = await people
  // Once more from the rows alone, with nothing in memory.
  for (let k = 0; k < SERVERS; k++) application.killServer(k)
  await wait(300)
  await application.healthy()
  const { wrong, changes } = await verify(application.addresses(), id, done)
  await application.stop()
  rmSync(folder, { recursive: true, force: true })
  const sum = (of) => done.reduce((total, person) => total + of(person), 0)
  say(
    `${kills} kills of servers and database; ${changes} changes stored, ${sum((p) => p.acknowledged.size)} acknowledged, ${sum((p) => p.refused)} refused, ${sum((p) => p.again)} sent again; slowest answer ${Math.round(Math.max(...done.map((p) => p.slowest)))} ms`,
  )
  if (wrong.length > 0) throw new Stop(`${wrong.length} faults:\n${wrong.slice(0, 20).join('\n')}`)
  say('nothing lost, nothing half')
}
