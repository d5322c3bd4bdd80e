/** A reason to stop that is told in one sentence, without a stack. */
export class Stop extends Error {}

export const say = (text) => process.stdout.write(`${text}\n`)

/** Runs a script's main function: a Stop ends it with its sentence and exit code 1. */
export const runMain = async (main) => {
  try {
    await main()
  } catch (error) {
    process.stderr.write(error instanceof Stop ? `${error.message}\n` : `${error.stack}\n`)
    process.exit(1)
  }
}
