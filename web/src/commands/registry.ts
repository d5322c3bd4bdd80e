import { computed, onScopeDispose, shallowReactive, type ComputedRef } from 'vue'
import { isPressed, type Keys, type Pressed } from './keys.ts'

/** Where a command can be given, as the sheet of keys has it. */
export type CommandPlace = 'Anywhere' | 'With what is selected' | 'In the list' | 'On the Ground'

/** Something that can be done now. Keys, palette, footline and the sheet of keys all take it from here. */
export interface Command {
  readonly id: string
  readonly label: string
  /** Any of these does it; the first is the one that is shown. */
  readonly keys: readonly Keys[]
  /** What it does, in a few words more. */
  readonly explains: string
  readonly place: CommandPlace
  /** Why it cannot be done now; empty if it can. */
  readonly closed?: string
  /** Done by its keys alone: moving about is nothing that one looks for. */
  readonly isKeyOnly?: boolean
  /** Its keys mean it only where the component that offers it has the keyboard, and sees to them. */
  readonly isLocal?: boolean
  /** Also while a text is typed. */
  readonly whileTyping?: boolean
  run(): void
}

/** A command that is given by its keys alone. */
export const byKeys = (
  place: CommandPlace,
  id: string,
  keys: readonly Keys[],
  label: string,
  run: () => void,
): Command => ({ id, keys, label, explains: '', place, isKeyOnly: true, run })

const offered = shallowReactive(new Set<ComputedRef<readonly Command[]>>())

/** Offers commands for as long as the component, or the scope, that asks for it is there. */
export const useCommands = (commands: () => readonly Command[]): ComputedRef<readonly Command[]> => {
  const list = computed(commands)
  offered.add(list)
  onScopeDispose(() => offered.delete(list))
  return list
}

/** Everything that can be done now, in the order in which it was offered. */
export const offeredCommands = (): Command[] => [...offered].flatMap((list) => list.value)

/** The command that these keys mean. */
export const commandOf = (
  commands: readonly Command[],
  event: Pressed,
  isTyping: boolean,
): Command | undefined =>
  commands.find(
    (command) => (!isTyping || command.whileTyping) && command.keys.some((keys) => isPressed(keys, event)),
  )
