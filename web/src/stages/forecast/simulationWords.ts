import type { ScaleValue, SimulationResult, TargetLook, ValueScale } from '@geodrome/core'
import type { TargetChoice } from './targets.ts'

/** What the stage knows of the run it shows, of what is asked about it, and of one that grows. */
export interface SimulationShown {
  /** Null where none is under way. */
  readonly growing: { readonly done: number; readonly total: number } | null
  readonly hasRun: boolean
  /** The run's own figures; null until they are there. */
  readonly result: Pick<
    SimulationResult,
    'planned' | 'plannedProbability' | 'required' | 'requiredProbability'
  > | null
  /** The answer for the target; null until it is there. */
  readonly look: Pick<TargetLook, 'count' | 'planned' | 'plannedShare'> | null
  /** The 80 % value of what is drawn; null where nothing is. */
  readonly p80: ScaleValue | null
  readonly isRefused: boolean
  readonly target: TargetChoice
  /** Whether only iterations of a kind are looked at. */
  readonly isPart: boolean
  readonly scale: ValueScale
}

/** What an analyst wants to know, first: the value that four in five keep. */
export const simulationTitle = (shown: SimulationShown): string => {
  const { growing, look, p80, isPart, target, scale } = shown
  if (growing)
    return `${growing.done.toLocaleString('en')} of ${growing.total.toLocaleString('en')} iterations`
  if (!shown.hasRun) return 'How sure is the planned finish?'
  if (look?.count === 0) return 'No iteration is like that.'
  if (p80 === null) return shown.isRefused ? 'This cannot be told of this run.' : 'Reading the latest run …'
  const who = `4 in 5 ${isPart ? 'of these iterations' : 'iterations'}`
  const inThem = `In 4 of 5 ${isPart ? 'such iterations' : 'iterations'}`
  const value = scale.words(p80)
  const { of } = target
  switch (target.target.what) {
    case 'finish':
      return of === '' ? `${who} finish by ${value}.` : `${who} have ${of} by ${value}.`
    case 'length':
      return `${inThem} ${of} takes at most ${value}.`
    case 'cost':
      return `${inThem} ${of || 'the plan'} costs at most ${value}.`
    case 'damages':
      return `${who} owe at most ${value}${of === '' ? ' in damages' : ` for ${of}`}.`
  }
}

export const perHundred = (share: number): string => `${Math.round(share * 100)} of 100`

/** How sure what is planned is, and what is required. @param isFinish - whether the plan's finish is asked about */
export const simulationSubtitle = (shown: SimulationShown, isFinish: boolean): string => {
  const { look, result, scale } = shown
  if (shown.growing) return 'The picture grows as the iterations come in.'
  if (!shown.hasRun)
    return 'Run the simulation: every iteration schedules the whole network with drawn durations, on its calendars, with its limits and progress.'
  if (look?.count === 0) return 'Choose another condition, or all iterations.'
  const [planned, share] = look
    ? [look.planned, look.plannedShare]
    : [result?.planned ?? null, shown.p80 === null ? null : (result?.plannedProbability ?? null)]
  if (planned === null || share === null) return ''
  const kept = `The planned ${scale.words(planned)} is kept in ${perHundred(share)}.`
  const isDue = !shown.isPart && isFinish && result?.required != null && result.requiredProbability !== null
  return isDue
    ? `${kept} The required ${scale.words(result.required!)} is kept in ${perHundred(result.requiredProbability!)}.`
    : kept
}

/** With what a run was made, so that it can be made again. */
export const howItWasMade = (
  {
    iterations,
    seed,
    risks,
    sampling,
    settled,
  }: Pick<SimulationResult, 'iterations' | 'seed' | 'risks' | 'sampling' | 'settled'>,
  revision: number,
): string => {
  const sureness =
    settled === null
      ? ''
      : `, the ${settled.percent} % date sure to ± ${Math.round(settled.halfWidth * 100) / 100} d`
  return `${iterations.toLocaleString('en')} iterations, seed ${seed}, ${risks ? 'spread and risks' : 'spread only'}, ${sampling === 'lhs' ? 'Latin hypercube' : 'random'}${sureness}, on revision ${revision}.`
}
