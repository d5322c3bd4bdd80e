import { writeFileSync } from 'node:fs'
import asc from 'assemblyscript/asc'

/** Compiles the kernel's sources. @returns its bytes in base64 @throws Error with what the compiler says */
export const compiledKernel = async () => {
  const { error, stderr, binary } = await compile()
  if (error) throw new Error(`the kernel does not compile\n${stderr}`, { cause: error })
  return Buffer.from(binary).toString('base64')
}

const compile = async () => {
  let binary = null
  const { error, stderr } = await asc.main(
    [
      'kernel/index.ts',
      '--outFile=kernel.wasm',
      '--runtime=stub',
      '--noAssert',
      '--enable=simd',
      '--importMemory',
      '-O3',
      '--baseDir=' + new URL('.', import.meta.url).pathname,
    ],
    { writeFile: (name, contents) => void (name === 'kernel.wasm' && (binary = contents)) },
  )
  return { error, stderr: String(stderr), binary }
}

const WHERE = new URL('./src/kernel/kernelBytes.ts', import.meta.url)

/** `npm run kernel`: writes the compiled kernel where core loads it from. */
if (process.argv[1] === new URL(import.meta.url).pathname)
  writeFileSync(
    WHERE,
    `/** Written by \`npm run kernel\` from core/kernel; a test compiles it again and compares. */\nexport const KERNEL =\n  '${await compiledKernel()}'\n`,
  )
