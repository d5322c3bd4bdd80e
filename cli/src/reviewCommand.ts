import {
  CHECKS,
  checkOf,
  complexity,
  effectWords,
  fitness,
  fourteenPoints,
  instantWords,
  limitProblem,
  PlanError,
  pointer,
  pointLimitProblem,
  PRESETS,
  review,
  schedule,
  type Finding,
  type FourteenPoints,
  type Plan,
  type PlanIssue,
  type Preset,
  type Review,
  type Schedule,
  lengthsOf,
} from '@geodrome/core'
import { UsageError, type Command } from './command.ts'

/** Limits of the plan's own that no check can have, as errors of the file. @throws PlanError */
const refuseWrongLimits = (plan: Plan): void => {
  const issues: PlanIssue[] = Object.entries(plan.project.review?.limits ?? {}).flatMap(([id, value]) => {
    const rule = checkOf(id)?.limit
    const why = rule ? limitProblem(rule, value) : 'there is no such limit; leave it out'
    return why === null
      ? []
      : [{ pointer: pointer('project', 'review', 'limits', id), code: 'shape' as const, message: why }]
  })
  for (const [id, value] of Object.entries(plan.project.review?.points ?? {})) {
    const why = pointLimitProblem(id, value)
    if (why !== null)
      issues.push({ pointer: pointer('project', 'review', 'points', id), code: 'shape', message: why })
  }
  if (issues.length > 0) throw new PlanError(issues)
}

export const reviewCommand: Command = {
  usage: `FILE [--preset ${PRESETS.join('|')}] [--fail-on moves-answer|any]`,
  summary: 'findings, those that move the answer first',
  options: { 'fail-on': { type: 'string' }, preset: { type: 'string' } },
  prepare: (options) => {
    const failOn = options['fail-on']
    const { preset } = options
    if (failOn !== undefined && failOn !== 'moves-answer' && failOn !== 'any')
      throw new UsageError('--fail-on takes moves-answer or any')
    if (preset !== undefined && !PRESETS.includes(preset as Preset))
      throw new UsageError(`--preset takes ${PRESETS.join(', ')}`)
    return ({ plan }) => {
      refuseWrongLimits(plan)
      const made = schedule(plan)
      const found = review(plan, made, preset === undefined ? {} : { preset: preset as Preset })
      const points = preset === '14-point' ? fourteenPoints(plan, made) : null
      const failed = found.findings.some(
        (f) => failOn === 'any' || (failOn === 'moves-answer' && f.severity === 'moves-answer'),
      )
      return {
        json: {
          findings: found.findings.map(plainFinding),
          counts: found.counts,
          complexity: complexity(plan),
          accepted: found.accepted.map(({ finding, acceptance }) => ({
            ...plainFinding(finding),
            reason: acceptance.reason,
            by: acceptance.by,
            at: acceptance.at,
          })),
          fitness: fitness(found),
          limits: found.limits,
          ...points,
        },
        text: () => reviewText(plan, made, found, points),
        exitCode: failed ? 3 : 0,
      }
    }
  },
}

/** A finding as the command line gives it: without what only serves to measure it. */
const plainFinding = ({
  check,
  topic,
  severity,
  activities,
  links,
  calendars,
  message,
  value,
  threshold,
  effect,
  fingerprint,
  facts,
  repairs,
}: Finding): object => ({
  check,
  topic,
  severity,
  activities,
  links,
  ...(calendars ? { calendars } : {}),
  message,
  value,
  threshold,
  effect,
  fingerprint,
  facts,
  repairs,
})

/** One line a finding, for people and for pipelines: mark, check, activities, effect, sentence. */
const reviewText = (plan: Plan, made: Schedule, found: Review, points: FourteenPoints | null): string => {
  const lengths = lengthsOf(plan, plan.project.calendar)
  const clean = CHECKS.filter((c) => found.counts[c.id] === 0).length
  const movers = found.findings.filter((f) => f.severity === 'moves-answer').length
  return [
    `${plan.project.code || plan.project.name}: finish ${instantWords(made.projectFinish, 'finish', { year: true })}; ${CHECKS.length} checks, ${clean} clean; ${found.findings.length} open, ${movers} of them move the answer; ${found.accepted.length} accepted; forecast: ${fitness(found).verdict}`,
    ...found.findings.map(
      (f) =>
        `${f.severity === 'moves-answer' ? '▲' : '△'} ${f.check.padEnd(24)} ${effectWords(f.effect, lengths).padEnd(16)} ${f.message}${found.reopened[f.fingerprint] ? ' (accepted before; its facts have changed)' : ''}`,
    ),
    ...(points
      ? points.points.map(
          (p) =>
            `${p.passes === null ? '·' : p.passes ? '✓' : '✗'} ${String(p.number).padStart(2)} ${p.name.padEnd(26)} ${p.value === null ? 'nothing to measure' : p.number > 12 ? p.value.toFixed(2) : `${p.count} of ${p.of}`}`,
        )
      : []),
    '',
  ].join('\n')
}
