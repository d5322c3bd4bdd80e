export * from './time/index.ts'
export * from './plan/index.ts'
