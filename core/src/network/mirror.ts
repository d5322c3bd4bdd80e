import { isWorking } from '../time/arithmetic.ts'
import type { Calendar, Spot } from '../time/calendar.ts'
import { Kind, LinkCode, networkOf, NONE, State, UNLIMITED, type Network } from './network.ts'
import { topologicalOrder } from './topologicalOrder.ts'
import { instantOf, type Instant } from '../time/instant.ts'

/** A calendar in the mirror of time: the minute [t, t+1) works where [−t−1, −t) works in the original. */
const mirrorCalendar = (calendar: Calendar): Calendar => ({
  id: calendar.id,
  countBefore: (t) => -calendar.countBefore(-t),
  minuteAt: (count) => -(calendar.minuteAt(-count - 1) + 1),
  firstStart: (t, spot) => {
    calendar.lastEnd(-t, spot)
    turnSpot(calendar, t, spot)
  },
  lastEnd: (t, spot) => {
    calendar.firstStart(-t, spot)
    turnSpot(calendar, t, spot)
  },
})

const turnSpot = (calendar: Calendar, t: Instant, spot: Spot): void => {
  spot.count = -spot.count
  spot.at = -spot.at
  spot.isWorking = isWorking(calendar, -t - 1)
}

const negate = (at: number): number => (at === NONE ? UNLIMITED : at === UNLIMITED ? NONE : -at)
const negatePin = (at: number): number => (at === NONE ? NONE : -at)

const MIRRORED_CODE: Readonly<Record<number, number>> = {
  [LinkCode.FS]: LinkCode.FS,
  [LinkCode.SF]: LinkCode.SF,
  [LinkCode.SS]: LinkCode.FF,
  [LinkCode.FF]: LinkCode.SS,
}

/**
 * The network in the mirror of time (t → −t), for scheduling backward: links turned and their ends exchanged, not-before and
 * not-after, start and finish exchanged. Its forward pass places everything as late as the project's finish allows.
 * Actual dates stand; the status date becomes a limit on the finish in the mirror.
 * @param from - the instant from which it is placed backward; the project's finish, which a plan scheduled backward has
 */
export const mirrorNetwork = (
  network: Network,
  from: Instant = instantOf(network.plan.project.finish!, 'finish'),
): Network => {
  const n = network.order.length
  const mirrored = new Map<Calendar, Calendar>()
  const turn = (calendar: Calendar): Calendar => {
    if (!mirrored.has(calendar)) mirrored.set(calendar, mirrorCalendar(calendar))
    return mirrored.get(calendar)!
  }
  const finish = -from
  const startFloor = new Int32Array(n)
  const finishFloor = new Int32Array(n)
  const startCeiling = new Int32Array(n)
  const finishCeiling = new Int32Array(n)
  for (let i = 0; i < n; i++) {
    startFloor[i] = Math.max(finish, negate(network.finishCeiling[i]!))
    // The floors of the original also hold project start and status date; the project start is the mirror's target.
    const floor = network.startFloor[i]!
    finishFloor[i] = negate(network.startCeiling[i]!)
    startCeiling[i] = negate(network.finishFloor[i]!)
    finishCeiling[i] =
      floor <= network.projectStart && network.statusDate === null ? UNLIMITED : negate(floor)
  }
  const count = network.links.length
  const position = new Int32Array(count)
  const turned = turnLinks(network, position)
  const state = network.state.map((s) => (s === State.Started ? State.NotStarted : s))
  const kind = network.kind.map((k) =>
    k === Kind.AtStart ? Kind.AtFinish : k === Kind.AtFinish ? Kind.AtStart : k,
  )
  return networkOf({
    ...network,
    calendar: network.calendar.map(turn),
    linkCalendar: Array.from(position, (k) => turn(network.linkCalendar[k]!)),
    links: Array.from(position, (k) => network.links[k]!),
    ...turned,
    order: topologicalOrder(n, turned, kind),
    kind,
    state,
    isPlain: state.map((s, i) =>
      s === State.NotStarted && network.startPin[i] === NONE && network.finishPin[i] === NONE ? 1 : 0,
    ),
    startFloor,
    finishFloor,
    startCeiling,
    finishCeiling,
    actualStart: network.actualFinish.map(negatePin),
    actualFinish: network.actualStart.map(negatePin),
    startPin: network.finishPin.map(negatePin),
    finishPin: network.startPin.map(negatePin),
    startCut: new Int32Array(n).fill(NONE),
    finishCut: new Int32Array(n).fill(NONE),
    projectStart: finish,
    statusDate: null,
    follows: false,
    isMirror: true,
  })
}

/** The links with from and to exchanged, sorted anew by successor. @param position - filled with the original position of each */
const turnLinks = (
  network: Network,
  position: Int32Array,
): Pick<Network, 'inStart' | 'linkFrom' | 'linkTo' | 'linkCode' | 'linkLag' | 'outStart' | 'outLink'> => {
  // Links out of i in the original are the links into i in the mirror: the CSR indices change places.
  position.set(network.outLink)
  const linkTo = Int32Array.from(position, (k) => network.linkFrom[k]!)
  const linkFrom = Int32Array.from(position, (k) => network.linkTo[k]!)
  const mirroredAt = new Int32Array(position.length)
  position.forEach((k, at) => (mirroredAt[k] = at))
  return {
    inStart: network.outStart,
    linkFrom,
    linkTo,
    linkCode: Uint8Array.from(position, (k) => MIRRORED_CODE[network.linkCode[k]!]!),
    linkLag: Int32Array.from(position, (k) => network.linkLag[k]!),
    outStart: network.inStart,
    outLink: mirroredAt,
  }
}
