import { KERNEL } from './kernelBytes.ts'

/** A global of the kernel, set by who lays out its memory. */
interface KernelGlobal {
  value: number
}

/** What core/kernel exports beside its functions, by name; pointers are bytes into its memory. */
interface KernelGlobals {
  readonly [name: string]: KernelGlobal
}

/** Its functions. */
export interface KernelFunctions {
  /** @returns 1 where every table reached far enough, else 0 */
  forward(width: number): number
  /** @returns as forward */
  forwardAgain(width: number, first: number, last: number): number
  countLongestPath(width: number): void
  /** @returns what is set in any of them, bit by bit */
  packFinishes(activities: number): number
  stratified(
    first: number,
    from: number,
    width: number,
    key: number,
    n: number,
    mask: number,
    far: number,
    near: number,
    jitter: number,
  ): void
  readShape(width: number, low: number, span: number): void
  stratifiedMinutes(
    first: number,
    from: number,
    width: number,
    key: number,
    n: number,
    mask: number,
    far: number,
    near: number,
    jitter: number,
    low: number,
    span: number,
    share: number,
  ): void
  plainMinutes(first: number, width: number, key: number, low: number, span: number, share: number): void
}

export interface Kernel {
  readonly memory: ArrayBuffer
  readonly functions: KernelFunctions
  readonly globals: KernelGlobals
}

/** Of the platform's own: core knows no browser and no server. */
interface Platform {
  readonly WebAssembly?: {
    readonly Module: new (bytes: Uint8Array) => object
    readonly Instance: new (module: object, imports: object) => { readonly exports: object }
    readonly Memory: new (size: { readonly initial: number }) => { readonly buffer: ArrayBuffer }
  }
  readonly atob: (text: string) => string
}
const { WebAssembly, atob } = globalThis as unknown as Platform

const PAGE = 65536
/** Everything begins at a multiple of a vector's bytes; nothing at 0. */
const ALIGNED = 16

let compiled: object | null | undefined
/** Compiled once; null where the platform has no WebAssembly, or none with vectors. */
const kernelModule = (): object | null => {
  if (compiled !== undefined) return compiled
  try {
    compiled = WebAssembly
      ? new WebAssembly.Module(Uint8Array.from(atob(KERNEL), (c) => c.charCodeAt(0)))
      : null
  } catch {
    compiled = null
  }
  return compiled
}

/** Whether the kernel is used where it can be: a test compares both ways. */
let isUsed = true

/** Does something without the kernel, as on a platform that has none. */
export const withoutKernel = <T>(work: () => T): T => {
  isUsed = false
  try {
    return work()
  } finally {
    isUsed = true
  }
}

export const kernelIsUsed = (): boolean => isUsed

/** One that nobody uses any more: memories are large, and the platform is slow to take them back. */
let spare: Kernel | null = null

/** Its memory may be another's from now on. */
export const giveBack = (kernel: Kernel): void => {
  if (!spare || kernel.memory.byteLength > spare.memory.byteLength) spare = kernel
}

/** @returns null where there is no kernel, or no room for it */
const newKernel = (bytes: number): Kernel | null => {
  const module = isUsed ? kernelModule() : null
  if (!module || !WebAssembly) return null
  if (spare && spare.memory.byteLength >= bytes) {
    const again = spare
    spare = null
    new Uint8Array(again.memory).fill(0)
    return again
  }
  try {
    const memory = new WebAssembly.Memory({ initial: Math.ceil(bytes / PAGE) })
    const { exports } = new WebAssembly.Instance(module, { env: { memory } })
    return {
      memory: memory.buffer,
      functions: exports as KernelFunctions,
      globals: exports as KernelGlobals,
    }
  } catch {
    return null
  }
}

/** Where something lies in the memory of a kernel that was opened with it. */
export type Place<Numbers> = (kernel: Kernel) => Numbers

/** The memory of a kernel before there is one: what lies where, and what it holds to begin with (nothing: zeros). */
export class KernelMemory {
  private bytesTaken = ALIGNED
  private readonly fills: ((kernel: Kernel) => void)[] = []

  /** @param pointer - the kernel's name for where it lies; null for what it finds otherwise */
  words(
    pointer: string | null,
    length: number,
    values?: ArrayLike<number>,
  ): Place<Int32Array> & { at: number } {
    const at = this.take(length * 4, pointer)
    const place = (kernel: Kernel): Int32Array => new Int32Array(kernel.memory, at, length)
    if (values) this.fill((kernel) => place(kernel).set(values))
    return Object.assign(place, { at })
  }
  halves(pointer: string, length: number): Place<Uint16Array> {
    const at = this.take(length * 2, pointer)
    return (kernel) => new Uint16Array(kernel.memory, at, length)
  }
  bytes(pointer: string, length: number, values?: ArrayLike<number>): Place<Uint8Array> {
    const at = this.take(length, pointer)
    const place = (kernel: Kernel): Uint8Array => new Uint8Array(kernel.memory, at, length)
    if (values) this.fill((kernel) => place(kernel).set(values))
    return place
  }
  numbers(pointer: string, length: number): Place<Float64Array> {
    const at = this.take(length * 8, pointer)
    return (kernel) => new Float64Array(kernel.memory, at, length)
  }
  /** Sets a global that is no pointer. */
  value(name: string, value: number): void {
    this.fill((kernel) => (kernel.globals[name]!.value = value))
  }
  /** What is done once the kernel is there. */
  fill(fill: (kernel: Kernel) => void): void {
    this.fills.push(fill)
  }

  private take(bytes: number, pointer: string | null): number {
    const at = this.bytesTaken
    this.bytesTaken = Math.ceil((at + bytes) / ALIGNED) * ALIGNED
    if (pointer !== null) this.value(pointer, at)
    return at
  }

  /** A kernel over this memory; null where the platform has none, or no room for it. */
  open(): Kernel | null {
    const kernel = newKernel(this.bytesTaken)
    if (kernel) for (const fill of this.fills) fill(kernel)
    return kernel
  }
}
