// The network compiled for computation
export { compileNetwork } from './compileNetwork.ts'
export {
  Kind,
  LinkCode,
  NONE,
  State,
  UNLIMITED,
  countsFromStart,
  limitsFinish,
  type Network,
  type ScheduleWarning,
} from './network.ts'
// Structure of the network
export { impliedLinks } from './impliedLinks.ts'
export { complexity, type Complexity } from './complexity.ts'
