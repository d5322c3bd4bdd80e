export { ASKED_AS, askedBy, type Asked, type AskedAs } from './asked.ts'
export { answered, contradictionIn, updateChange, type Answer, type Answers } from './answers.ts'
export { previewUpdate, type MovedTogether, type OddAnswer, type UpdatePreview } from './preview.ts'
