import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { ROOT } from '../install.mjs'

/** The plan that all edit, and what its file said when it was imported. */
export const importPlan = async (address) => {
  const file = readFileSync(join(ROOT, 'demo/kittiwake.geodrome.json'), 'utf8')
  const response = await fetch(`${address}/plans?uid=${randomUUID()}`, { method: 'POST', body: file })
  return (await response.json()).id
}

const SEND_AGAIN_MS = 50

/**
 * One person who edits until `isOver`: sends each change until it has an answer that says what became of it.
 * @returns what was acknowledged, by uid, and counts
 */
export const edit = async (id, addresses, name, random, isOver) => {
  const acknowledged = new Map()
  const counts = { refused: 0, again: 0, slowest: 0 }
  const pick = (list) => list[Math.floor(random() * list.length)]
  let plan = null
  let revision = 0
  const open = async () => {
    const opened = await ask(`${pick(addresses())}/plans/${id}`)
    if (opened?.status !== 200) return
    plan = opened.body.plan
    revision = opened.body.revision
  }
  const ask = async (url, body) => {
    const began = performance.now()
    try {
      const response = await fetch(url, {
        ...(body && {
          method: 'POST',
          body: JSON.stringify(body),
          headers: { 'content-type': 'application/json' },
        }),
        signal: AbortSignal.timeout(30_000),
      })
      const answer = { status: response.status, body: await response.json() }
      if (response.status < 500) counts.slowest = Math.max(counts.slowest, performance.now() - began)
      return answer
    } catch {
      return null
    }
  }
  while (!isOver()) {
    if (plan === null || random() < 0.05) await open()
    if (plan === null) {
      await wait(SEND_AGAIN_MS)
      continue
    }
    const uid = randomUUID()
    const sent = {
      uid,
      client: name,
      author: name,
      base: revision,
      change: anyChange(plan, pick, random, uid),
    }
    for (;;) {
      const answer = await ask(`${pick(addresses())}/plans/${id}/changes`, sent)
      if (answer?.status === 200) {
        acknowledged.set(uid, answer.body.revision)
        revision = answer.body.revision
        break
      }
      if (answer !== null && answer.status < 500 && answer.status !== 429) {
        counts.refused++
        plan = null
        break
      }
      counts.again++
      await wait(SEND_AGAIN_MS)
    }
  }
  return { acknowledged, ...counts }
}

const anyChange = (plan, pick, random, uid) => {
  const { id, kind, duration } = pick(plan.activities)
  const roll = random()
  if (roll < 0.5) return { kind: 'set', list: 'activities', key: id, set: { notes: uid } }
  if (roll < 0.7 && kind === 'work')
    return {
      kind: 'set',
      list: 'activities',
      key: id,
      set: { duration: Math.max(0, duration + Math.floor(random() * 120) - 60) },
    }
  if (roll < 0.8) return { kind: 'move', list: 'activities', key: id, before: null }
  if (roll < 0.9)
    return {
      kind: 'add',
      list: 'activities',
      item: { id: uid.slice(0, 8), code: uid.slice(0, 6), duration: 60 },
      before: id,
    }
  return {
    kind: 'all',
    changes: [
      { kind: 'set', list: 'activities', key: id, set: { owner: uid } },
      { kind: 'project', set: { notes: uid } },
    ],
  }
}
