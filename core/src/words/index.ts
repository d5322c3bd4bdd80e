// Words for dates and durations, and what was understood of typed ones
export {
  dateWords,
  daysWords,
  instantWords,
  MONTH,
  sayYearsOf,
  shortDay,
  spanEnd,
  withYearsOf,
} from './dates.ts'
export {
  durationWords,
  hoursWords,
  readDuration,
  shortDurationWords,
  type TypedDuration,
} from './durations.ts'
export { readDate, type TypedDate } from './typedDate.ts'
export {
  amountsWords,
  chanceWords,
  estimateWords,
  factorsWords,
  frequencyWords,
  monthChancesWords,
  readAmounts,
  readChance,
  readEstimate,
  readFactors,
  readMonthChances,
  type Range,
  type TypedMonths,
  type TypedRange,
  type TypedShare,
} from './typedRange.ts'
export { codesWords, scopeWords } from './scopeWords.ts'
export { xmlLetters, xmlText } from './xmlText.ts'
export { counted } from './counted.ts'
export {
  assignmentWords,
  availableWords,
  priceWords,
  readAssignments,
  readAvailable,
  roundMoneyWords,
  type TypedAssignments,
  type TypedAvailable,
} from './resources.ts'
export { amountWords, moneyWords, readAmount } from './amounts.ts'
export { describeChange } from './changes.ts'
export { lagPhrase, linkPhrase, LINK_PHRASE } from './links.ts'
export { findByCodeOrName, readLinks, type FindEnd, type TypedEnd, type TypedLinks } from './typedLinks.ts'
export { readActivityLine, type TypedActivity } from './typedActivity.ts'
export { readParts, type TypedParts } from './typedParts.ts'
export { readShifts, readWeek, shiftWords, weekWords, type TypedShifts, type TypedWeek } from './weekWords.ts'
// Sentences
export { plainText, type Part, type Sentence } from './parts.ts'
export { constraintPhrase, constraintWords, sourceWords } from './constraintWords.ts'
export {
  explanationWords,
  type EdgeWords,
  type ExplanationWords,
  type Rung,
  type RunnerUp,
} from './explanationWords.ts'
export { stopWords } from './stopWords.ts'
export { hoursDifferences } from './calendarWords.ts'
