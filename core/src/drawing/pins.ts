import { instantOf } from '../time/instant.ts'
import type { Plan } from '../plan/schema.ts'
import { shortDay } from '../words/dates.ts'

/** A date that stands on the ruler and runs down the Ground. */
export interface Pin {
  readonly id: string
  readonly at: number
  readonly label: string
  readonly tone: 'ink' | 'brick' | 'fjord' | 'soft'
}

/** Status date, required finish, planned finish, and the date that is 80 % sure. @param p80 - null where no run that fits says it */
export const pinsOf = (plan: Plan, projectFinish: number, p80: string | null): Pin[] => {
  const pins: Pin[] = []
  const { requiredFinish, statusDate } = plan.project
  if (statusDate !== null) {
    const at = instantOf(statusDate, 'start')
    pins.push({ id: 'status', at, label: `status ${shortDay(at)}`, tone: 'soft' })
  }
  if (requiredFinish !== null) {
    const at = instantOf(requiredFinish, 'finish')
    pins.push({ id: 'required', at, label: `required ${shortDay(at, 'finish')}`, tone: 'brick' })
  }
  if (plan.activities.length > 0)
    pins.push({
      id: 'planned',
      at: projectFinish,
      label: `planned ${shortDay(projectFinish, 'finish')}`,
      tone: 'ink',
    })
  if (p80 !== null) {
    const at = instantOf(p80, 'start')
    pins.push({ id: 'p80', at, label: `80 % ${shortDay(at, 'finish')}`, tone: 'fjord' })
  }
  return pins
}

/** A label placed on the ruler: in a lane, at the pin or at the edge with an arrow. */
export interface PlacedPin extends Pin {
  readonly x: number
  readonly lane: number
  readonly anchor: 'start' | 'end'
  readonly text: string
}

const CHARACTER = 6.6
const LANES = 3

/** Places labels so that they give way to each other: each in the first lane where it overlaps none. */
export const placePins = (pins: readonly Pin[], x: (at: number) => number, width: number): PlacedPin[] => {
  const lanes: [number, number][][] = Array.from({ length: LANES }, () => [])
  return [...pins]
    .sort((a, b) => a.at - b.at)
    .map((pin): PlacedPin => {
      const at = x(pin.at)
      const text = at > width - 2 ? `${pin.label} ▸` : at < 2 ? `◂ ${pin.label}` : pin.label
      const spot = Math.min(width - 3, Math.max(3, at))
      const length = text.length * CHARACTER + 8
      const anchor = spot - length > 0 && spot > width / 2 ? 'end' : 'start'
      const box: [number, number] = anchor === 'end' ? [spot - length, spot] : [spot, spot + length]
      const free = lanes.findIndex((taken) => taken.every(([a, b]) => box[1] < a || box[0] > b))
      const lane = free < 0 ? LANES - 1 : free
      lanes[lane]!.push(box)
      return { ...pin, x: spot, lane, anchor, text }
    })
}
