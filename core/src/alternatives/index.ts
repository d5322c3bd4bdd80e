// Scenarios beside the plan
export {
  alternativeBeside,
  comparedPlan,
  type Alternative,
  type AlternativeBeside,
  type ComparedPlan,
} from './alternative.ts'
export { choiceWords, type Choosable } from './choice.ts'
