/** Made once: a format costs more to make than a hundred dates to write. */
const format = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})

/** When something was done, on the clock of whoever reads it: "26 Nov, 14:05". @param at - an ISO time, as the log has it */
export const momentWords = (at: string): string => format.format(new Date(at))
