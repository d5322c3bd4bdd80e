// What others see of a plan by a link
export { isShown, sharedView, type SharedChoice, type SharedView } from './sharedView.ts'
export { sharedPage } from './sharedPage.ts'
