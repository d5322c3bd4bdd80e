// The house rule for names: departures are listed, never enforced
export { departureOf, houseRuleOf, NO_RULE, type HouseRule } from './houseRule.ts'
