// Compiles core/src/kernels/kernels.as to core/src/kernels/binary.ts, which is kept in the repository: nothing compiles
// at run time.
import { writeFileSync } from 'node:fs'
import { compileKernels } from './compile-kernels.mjs'

const bytes = await compileKernels()
writeFileSync(
  'core/src/kernels/binary.ts',
  `/** Made by scripts/build-kernels.mjs from kernels.as; a test compiles it again and compares. */
export const BINARY = '${Buffer.from(bytes).toString('base64')}'
`,
)
console.log(`${bytes.length} bytes`)
