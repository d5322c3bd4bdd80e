/** Compiles the kernel's sources. @returns its bytes in base64 @throws Error with what the compiler says */
export const compiledKernel: () => Promise<string>
