import { configFrom } from './config.ts'
import { startServer } from './server.ts'

try {
  const server = await startServer(configFrom(process.env))
  process.send?.({ address: server.address })
  process.stdout.write(`Geodrome serves on ${server.address}\n`)
  if (server.firstWelcome !== null)
    process.stdout.write(
      `Nobody can sign in yet. Whoever opens this address first, within a week, is the administrator:\n  ${server.firstWelcome}\n`,
    )
  let stopping = false
  const stop = (): void => {
    if (stopping) return
    stopping = true
    server.stop().then(
      () => process.exit(0),
      () => process.exit(1),
    )
  }
  process.on('SIGINT', stop)
  process.on('SIGTERM', stop)
} catch (error) {
  // What was opened on the way (connections, timers) must not keep a server alive that serves nothing.
  process.stderr.write(`Geodrome cannot start: ${(error as Error).message}\n`, () => process.exit(1))
}
