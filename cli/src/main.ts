import { run } from './run.ts'

const result = await run(process.argv.slice(2), process.stdin)
process.stdout.write(result.stdout)
process.stderr.write(result.stderr)
process.exitCode = result.exitCode
