import { useEventListener } from '@vueuse/core'
import { isTyping } from './keys.ts'
import { commandOf, offeredCommands } from './registry.ts'

/** Gives what is offered by its keys, wherever the keyboard is, unless a text is being typed. */
export const useCommandKeys = (): void => {
  useEventListener(document, 'keydown', (event: KeyboardEvent) => {
    if (event.defaultPrevented) return
    const command = commandOf(
      offeredCommands().filter(({ isLocal }) => !isLocal),
      event,
      isTyping(event.target),
    )
    if (!command) return
    event.preventDefault()
    command.run()
  })
}
