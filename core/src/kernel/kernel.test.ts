import { expect, it } from 'vitest'
import { compiledKernel } from '../../write-kernel.mjs'
import { KERNEL } from './kernelBytes.ts'

it('the kernel that is loaded is the one its sources compile to: npm run kernel', async () => {
  expect(await compiledKernel()).toBe(KERNEL)
})
