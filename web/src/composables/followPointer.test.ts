import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { followPointer } from './followPointer.ts'

describe('a pointer that is followed', () => {
  let moves: number[]
  let ends: boolean[]
  const say = (type: string, fields: object = {}): void =>
    void window.dispatchEvent(Object.assign(new Event(type), { pointerId: 1, ...fields }))
  beforeEach(() => {
    vi.stubGlobal('window', new EventTarget())
    moves = []
    ends = []
    followPointer(
      { pointerId: 1 },
      ({ clientX }) => moves.push(clientX),
      (isDropped) => ends.push(isDropped),
    )
    say('pointermove', { clientX: 10 })
  })
  afterEach(() => vi.unstubAllGlobals())

  it('is heard until it is let go, and not after', () => {
    say('pointermove', { clientX: 20 })
    say('pointerup')
    say('pointermove', { clientX: 30 })
    say('pointerup')
    expect([moves, ends]).toEqual([[10, 20], [true]])
  })

  it('is given up on Escape, and on no other key', () => {
    say('keydown', { key: 'a' })
    say('pointermove', { clientX: 20 })
    say('keydown', { key: 'Escape' })
    say('pointermove', { clientX: 30 })
    say('pointerup')
    expect([moves, ends]).toEqual([[10, 20], [false]])
  })

  it('is given up where the system takes it away', () => {
    say('pointercancel')
    say('pointermove', { clientX: 30 })
    expect([moves, ends]).toEqual([[10], [false]])
  })

  it('is kept by its holder, so that nothing else is lit or selected on the way', () => {
    const kept: number[] = []
    const holder = { setPointerCapture: (id: number) => void kept.push(id) }
    followPointer(
      { pointerId: 7 },
      () => undefined,
      () => undefined,
      holder,
    )
    expect(kept).toEqual([7])
  })

  it('is not mistaken for a second finger', () => {
    say('pointermove', { clientX: 99, pointerId: 2 })
    say('pointerup', { pointerId: 2 })
    say('pointercancel', { pointerId: 2 })
    say('pointermove', { clientX: 20 })
    expect([moves, ends]).toEqual([[10, 20], []])
  })
})
