import type { LookTarget, Plan } from '@geodrome/core'

/** What a run can be asked about, as it is chosen from a list. */
export interface TargetChoice {
  readonly value: string
  readonly label: string
  readonly target: LookTarget
  /** Follows "finish", "cost": of whom the title speaks; empty of the whole plan. */
  readonly of: string
}

const called = ({ code, name, id }: { code?: string; name: string; id: string }): string =>
  [code, name].filter(Boolean).join(' ') || id

/** The plan's finish first; then milestones with their payments, groups, hammocks, money and damages; last single work. */
export const targetChoices = (plan: Plan): TargetChoice[] => {
  const { activities, groups, damages } = plan
  const choice = (label: string, of: string, target: LookTarget): TargetChoice => ({
    value: JSON.stringify(target),
    label,
    of,
    target,
  })
  const finishOf = (id: string): LookTarget => ({ what: 'finish', of: 'activity', id })
  return [
    choice('Finish of the plan', '', { what: 'finish', of: 'project', id: null }),
    ...activities
      .filter(({ kind }) => kind === 'milestone')
      .map((one) =>
        choice(`${one.payment ? 'Payment' : 'Milestone'}: ${called(one)}`, called(one), finishOf(one.id)),
      ),
    ...groups.map((one) =>
      choice(`Finish of ${called(one)}`, called(one), { what: 'finish', of: 'group', id: one.id }),
    ),
    ...activities
      .filter(({ kind }) => kind === 'hammock')
      .map((one) =>
        choice(`Length of ${called(one)}`, called(one), { what: 'length', of: 'activity', id: one.id }),
      ),
    choice('Cost of the plan', '', { what: 'cost', of: 'project', id: null }),
    ...groups.map((one) =>
      choice(`Cost of ${called(one)}`, called(one), { what: 'cost', of: 'group', id: one.id }),
    ),
    ...(damages.length > 1 ? [choice('Damages, all', '', { what: 'damages', of: 'project', id: null })] : []),
    ...damages.map((one) =>
      choice(`Damages: ${called(one)}`, called(one), { what: 'damages', of: 'project', id: one.id }),
    ),
    ...activities
      .filter(({ kind }) => kind === 'work')
      .flatMap((one) => [choice(`Finish of ${called(one)}`, called(one), finishOf(one.id))]),
  ]
}
