import { effectScope, ref } from 'vue'
import { describe, expect, it } from 'vitest'
import { isPressed, isText, type Pressed } from './keys.ts'
import { commandOf, offeredCommands, useCommands, type Command } from './registry.ts'

const press = (key: string, more: Partial<Pressed> = {}): Pressed => ({
  key,
  code: '',
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  ...more,
})

describe('keys', () => {
  it.each<[keys: string, event: Pressed, isIt: boolean]>([
    ['Ctrl Z', press('z', { ctrlKey: true }), true],
    ['Ctrl Z', press('z', { metaKey: true }), true],
    ['Ctrl Z', press('Z', { ctrlKey: true, shiftKey: true }), false],
    ['Ctrl Shift Z', press('Z', { ctrlKey: true, shiftKey: true }), true],
    ['Ctrl Z', press('z'), false],
    ['Ctrl Z', press('z', { ctrlKey: true, altKey: true }), false],
    // Another alphabet, and a Mac whose Alt makes another sign.
    ['Ctrl Z', press('я', { ctrlKey: true, code: 'KeyZ' }), true],
    ['Alt L', press('¬', { altKey: true, code: 'KeyL' }), true],
    // Letters that have moved: on this keyboard Z stands where Y is elsewhere.
    ['Ctrl Z', press('y', { ctrlKey: true, code: 'KeyZ' }), false],
    ['Ctrl Z', press('z', { ctrlKey: true, code: 'KeyY' }), true],
    ['Alt 3', press('£', { altKey: true, code: 'Digit3' }), true],
    ['0', press('0'), true],
    ['0', press('0', { ctrlKey: true }), false],
    ['?', press('?', { shiftKey: true }), true],
    ['+', press('+', { shiftKey: true }), true],
    ['−', press('-'), true],
    ['Alt →', press('ArrowRight', { altKey: true }), true],
    ['Shift →', press('ArrowRight'), false],
    ['→', press('ArrowRight', { shiftKey: true }), false],
    ['PageUp', press('PageUp'), true],
    ['Shift PageDown', press('PageDown', { shiftKey: true }), true],
    ['Space', press(' '), true],
    ['Space', press(' ', { shiftKey: true }), false],
    ['Esc', press('Escape'), true],
    ['Delete', press('Delete'), true],
  ])('%s by %o: %s', (keys, event, isIt) => expect(isPressed(keys, event)).toBe(isIt))

  it('a letter in a table is text, a letter with Ctrl or Alt is a command', () => {
    expect(
      [press('g'), press('G', { shiftKey: true }), press('7'), press('+'), press('é')].every(isText),
    ).toBe(true)
    expect(
      [
        press('g', { altKey: true }),
        press('g', { ctrlKey: true }),
        press(' '),
        press('Enter'),
        press('F2'),
      ].some(isText),
    ).toBe(false)
  })
})

describe('the registry', () => {
  const command = (id: string, keys: readonly string[], more: Partial<Command> = {}): Command => ({
    id,
    label: id,
    keys,
    explains: '',
    place: 'Anywhere',
    run: () => undefined,
    ...more,
  })

  it('offers what is there, for as long as what offers it is there', () => {
    const isLong = ref(false)
    const [outer, inner] = [effectScope(), effectScope()]
    outer.run(() => useCommands(() => [command('a', ['A'])]))
    inner.run(() => useCommands(() => (isLong.value ? [command('b', ['B']), command('c', [])] : [])))
    const ids = (): string[] => offeredCommands().map(({ id }) => id)
    expect(ids()).toEqual(['a'])
    isLong.value = true
    expect(ids()).toEqual(['a', 'b', 'c'])
    inner.stop()
    expect(ids()).toEqual(['a'])
    outer.stop()
    expect(ids()).toEqual([])
  })

  it('finds a command by any of its keys; while typing only what says so', () => {
    const commands = [command('find', ['Ctrl K'], { whileTyping: true }), command('map', ['Alt M', 'M'])]
    expect(commandOf(commands, press('m'), false)?.id).toBe('map')
    expect(commandOf(commands, press('m', { altKey: true }), false)?.id).toBe('map')
    expect(commandOf(commands, press('m'), true)).toBeUndefined()
    expect(commandOf(commands, press('k', { ctrlKey: true }), true)?.id).toBe('find')
  })
})
