import { chainReport, LevelError } from '@geodrome/core'
import { numberBetween, UsageError, type Command } from './command.ts'
import { when } from './when.ts'

const SIZINGS = ['half', 'root-squares', 'simulated'] as const

export const chainCommand: Command = {
  usage: 'FILE [--sizing half|root-squares|simulated] [--cut 0.5]',
  summary: 'critical chain: who follows whom, buffers, gaps, the promised finish',
  options: { sizing: { type: 'string' }, cut: { type: 'string' } },
  prepare: ({ sizing: asked, cut: less }) => {
    const sizing = SIZINGS.find((one) => one === asked)
    if (asked !== undefined && sizing === undefined)
      throw new UsageError(`--sizing takes ${SIZINGS.join(', ')}`)
    const cut = less === '0' ? 0 : numberBetween(less, 'cut', 0, 0.95)
    return ({ plan }) => {
      let report
      try {
        report = chainReport(plan, { ...(sizing && { sizing }), ...(cut !== null && { cut }) })
      } catch (error) {
        if (error instanceof LevelError) throw new UsageError(error.message)
        throw error
      }
      const codeOf = new Map(plan.activities.map(({ id, code }) => [id, code]))
      const codes = (ids: readonly string[]): string => ids.map((id) => codeOf.get(id) ?? id).join(', ')
      return {
        json: report,
        text: () =>
          [
            `Promised ${when(report.promised, 'finish')}; the chain ends ${when(report.finish, 'finish')}`,
            `Chain: ${report.chain.map((id) => codeOf.get(id) ?? id).join(' → ')}`,
            ...report.handovers.map(
              ({ from, to, resource }) => `  ${codes([from])} hands over to ${codes([to])} (${resource})`,
            ),
            ...report.buffers.map(
              ({ kind, size, after, before, start }) =>
                `  ${kind.padEnd(10)} ${String(Math.round(size * 100) / 100).padStart(7)} d from ${when(start, 'start')}, after ${codes(after)}${before.length > 0 ? `, before ${codes(before)}` : ''}`,
            ),
            ...report.gaps.map(
              ({ before, length, cause }) =>
                `  gap of ${Math.round(length * 100) / 100} d before ${codes([before])}: ${cause} does not fit`,
            ),
            '',
          ].join('\n'),
      }
    }
  },
}
