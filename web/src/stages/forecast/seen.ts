import { instantOf, type Distribution, type Plan, type ValueScale } from '@geodrome/core'

/** From where the mean stands so far beyond the middle that it is worth a sentence. */
const FAR = 0.53

/** What is seen of a distribution, in sentences: where values gather, and which end stretches further. */
export const seenIn = (found: Distribution, scale: ValueScale, plan: Plan): string[] => {
  const { twoPeaks, meanShare, mean } = found
  const hundred = (share: number): string => `${Math.round(share * 100)}`
  const [late, early] = scale.isDate ? ['late', 'early'] : ['high', 'low']
  const said: string[] = []
  if (twoPeaks) {
    const [first, second] = twoPeaks.at.map((value) => scale.words(value))
    const risk = plan.risks.find(({ id }) => id === twoPeaks.because?.risk)
    const name = risk && [risk.code, risk.name].filter(Boolean).join(' ')
    const waiting = twoPeaks.waits.flatMap(({ activity, days }) => {
      const one = plan.activities.find(({ id }) => id === activity)
      return one
        ? [`${[one.code, one.name].filter(Boolean).join(' ')} stands still ${Math.round(days)} d longer`]
        : []
    })
    const [upper, lower] = scale.isDate ? ['later', 'earlier'] : ['higher', 'lower']
    const why =
      twoPeaks.because && name
        ? `: ${name} happened in ${hundred(twoPeaks.because.above)} of 100 of the ${upper} and in ${hundred(twoPeaks.because.below)} of 100 of the ${lower}`
        : waiting.length > 0
          ? `: in the later ${waiting.join(' and ')}, for want of time on its calendar`
          : ''
    said.push(
      `They gather in two places, around ${first} (${hundred(twoPeaks.below)} in 100) and around ${second}${why}.`,
    )
  }
  if (meanShare >= FAR)
    said.push(
      `The mean, ${scale.words(mean)}, is at ${hundred(meanShare)} in 100: ${late} ones stretch further than ${early} ones.`,
    )
  else if (meanShare <= 1 - FAR)
    said.push(
      `The mean, ${scale.words(mean)}, is at ${hundred(meanShare)} in 100: ${early} ones stretch further than ${late} ones.`,
    )
  return said
}

const DAY = 1440
/** Days before and after the mean in which something would finish, weekends left out. */
const NEAR_DAYS = 2
/** So few of them that nobody would wait for it. */
const FEW = 0.02

/** Whether hardly anything finishes near the mean: it lies between two peaks, and is no date to expect. Of dates alone. */
export const isMeanInGap = ({ twoPeaks, mean, bars }: Distribution): boolean => {
  if (!twoPeaks) return false
  const day = (date: string | number): number => Math.floor(instantOf(String(date), 'start') / DAY)
  const at = day(mean)
  const [near, all] = bars.reduce(
    ([close, total], { from, count }) => [
      close + (Math.abs(day(from) - at) <= NEAR_DAYS ? count : 0),
      total + count,
    ],
    [0, 0],
  )
  return near < FEW * all
}
