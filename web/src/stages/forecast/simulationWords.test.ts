import { describe, expect, it } from 'vitest'
import { amountScale, DATE_SCALE } from '@geodrome/core'
import { howItWasMade, simulationSubtitle, simulationTitle, type SimulationShown } from './simulationWords.ts'

const FINISH: SimulationShown['target'] = {
  value: '',
  label: 'Finish of the plan',
  of: '',
  target: { what: 'finish', of: 'project', id: null },
}
const SHOWN: SimulationShown = {
  growing: null,
  hasRun: true,
  result: {
    planned: '2027-07-05T17:00',
    plannedProbability: 0.314,
    required: '2027-07-01T24:00',
    requiredProbability: 0.08,
  },
  look: null,
  p80: '2027-07-19T17:00',
  isRefused: false,
  target: FINISH,
  isPart: false,
  scale: DATE_SCALE,
}
const money = amountScale((amount) => `${amount} EUR`)
const of = (changes: Partial<SimulationShown>): SimulationShown => ({ ...SHOWN, ...changes })

describe('the title', () => {
  it('says by when four in five finish, of whom it is asked', () => {
    expect(simulationTitle(SHOWN)).toBe('4 in 5 iterations finish by Mon 19 Jul.')
    const target = {
      ...FINISH,
      of: 'M2 Roof on',
      target: { what: 'finish', of: 'activity', id: 'm2' } as const,
    }
    expect(simulationTitle(of({ target, isPart: true }))).toBe(
      '4 in 5 of these iterations have M2 Roof on by Mon 19 Jul.',
    )
  })
  it('speaks of money and damages in theirs', () => {
    const cost = { ...FINISH, target: { what: 'cost', of: 'project', id: null } as const }
    expect(simulationTitle(of({ target: cost, scale: money, p80: 900, isPart: true }))).toBe(
      'In 4 of 5 such iterations the plan costs at most 900 EUR.',
    )
    const damages = { ...FINISH, target: { what: 'damages', of: 'project', id: null } as const }
    expect(simulationTitle(of({ target: damages, scale: money, p80: 0 }))).toBe(
      '4 in 5 iterations owe at most 0 EUR in damages.',
    )
  })
  it('says nothing of a value that is not there', () => {
    expect(simulationTitle(of({ p80: null }))).toBe('Reading the latest run …')
    expect(simulationTitle(of({ p80: null, isRefused: true }))).toBe('This cannot be told of this run.')
    expect(simulationTitle(of({ look: { count: 0, planned: '2027-07-05T17:00', plannedShare: null } }))).toBe(
      'No iteration is like that.',
    )
    expect(simulationTitle(of({ growing: { done: 1280, total: 10_000 } }))).toBe('1,280 of 10,000 iterations')
    expect(simulationTitle(of({ hasRun: false }))).toBe('How sure is the planned finish?')
  })
})

describe('what stands below it', () => {
  it('says how sure the planned finish is, and the required one', () => {
    expect(simulationSubtitle(SHOWN, true)).toBe(
      'The planned Mon 5 Jul is kept in 31 of 100. The required Thu 1 Jul is kept in 8 of 100.',
    )
  })
  it('leaves out what is required where something else is asked, or only some iterations are looked at', () => {
    expect(simulationSubtitle(SHOWN, false)).toBe('The planned Mon 5 Jul is kept in 31 of 100.')
    expect(simulationSubtitle(of({ isPart: true }), true)).toBe('The planned Mon 5 Jul is kept in 31 of 100.')
  })
  it('goes by the answer once it is there, and says nothing where it tells no share', () => {
    const look = { count: 40, planned: '2027-07-05T17:00', plannedShare: 0.5 }
    expect(simulationSubtitle(of({ look }), false)).toBe('The planned Mon 5 Jul is kept in 50 of 100.')
    expect(simulationSubtitle(of({ look: { ...look, plannedShare: null } }), false)).toBe('')
    expect(simulationSubtitle(of({ p80: null }), true)).toBe('')
  })
})

it('how a run was made is all that it takes to make it again', () => {
  const run = { iterations: 5000, seed: 7, risks: true, sampling: 'lhs', settled: null } as const
  expect(howItWasMade(run, 12)).toBe(
    '5,000 iterations, seed 7, spread and risks, Latin hypercube, on revision 12.',
  )
  const settled = { percent: 80, halfWidth: 0.4987 }
  expect(howItWasMade({ ...run, risks: false, sampling: 'random', settled }, 3)).toBe(
    '5,000 iterations, seed 7, spread only, random, the 80 % date sure to ± 0.5 d, on revision 3.',
  )
})
