import type { Plan } from '@geodrome/core'
import { momentWords } from '../../composables/momentWords.ts'
import type { SimulationRun } from '../../stores/forecastStore.ts'

/** What a run is called: its name, else when it was made and what was drawn in it. */
export const runWords = ({ name, createdAt, input }: SimulationRun, plan: Plan): string => {
  const scenario = plan.scenarios.find(({ id }) => id === input.scenario)
  const of =
    input.scenario === null ? '' : ` in ${scenario ? scenario.name || 'a scenario' : 'a removed scenario'}`
  return `${name ?? `${momentWords(createdAt)}${input.risks ? '' : ', spread only'}`}${of}`
}

/** Of two runs on the same draws, the share of the iterations in which the second finishes earlier; null where their draws are not the same. */
export const earlierIn = (
  [a, b]: readonly [SimulationRun, SimulationRun],
  [first, second]: readonly [string, string],
): number | null => {
  if (a.input.seed !== b.input.seed || a.input.sampling !== b.input.sampling) return null
  const [x, y] = [finishesOf(first), finishesOf(second)]
  if (x.length !== y.length) return null
  let earlier = 0
  for (let k = 0; k < x.length; k++) if (y[k]! < x[k]!) earlier++
  return earlier / x.length
}

/** @param text - base64 of little-endian int32 instants */
const finishesOf = (text: string): Int32Array => {
  const bytes = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0))
  return new Int32Array(bytes.buffer)
}
