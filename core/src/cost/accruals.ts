/** When a part of a cost falls due within its activity. */
export const ACCRUALS = ['even', 'start', 'finish'] as const
export type Accrual = (typeof ACCRUALS)[number]
