import { expect, it } from 'vitest'
import { undoStacks } from './undoStacks.ts'

const line = (uid: string, undoes: string | null = null, author = 'me') => ({ uid, undoes, author })

it('takes back the latest own change, and does again what was taken back last', () => {
  expect(undoStacks([line('a'), line('b'), line('x', null, 'other')], 'me')).toEqual({
    undo: ['a', 'b'],
    redo: [],
  })
  const log = [line('a'), line('b'), line('c', 'b'), line('d', 'a')]
  expect(undoStacks(log, 'me')).toEqual({ undo: [], redo: ['c', 'd'] })
  expect(undoStacks([...log, line('e', 'd')], 'me')).toEqual({ undo: ['e'], redo: ['c'] })
})

it('forgets what could be done again once something new is done', () => {
  expect(undoStacks([line('a'), line('b', 'a'), line('c')], 'me')).toEqual({ undo: ['c'], redo: [] })
})
