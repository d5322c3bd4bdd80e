// Scenarios beside the plan
export {
  alternativeBeside,
  comparedPlan,
  type Alternative,
  type AlternativeBeside,
  type ComparedPlan,
} from './alternative.ts'
export { choiceWords, type Choosable } from './choice.ts'
export { pairRuns, type Pairing } from './pairing.ts'
export { sideBySide, type Compared, type ComparedBy } from './sideBySide.ts'
