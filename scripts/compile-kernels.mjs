import { readFileSync } from 'node:fs'
import asc from 'assemblyscript/asc'

const SOURCE = new URL('../core/src/kernels/kernels.as', import.meta.url)

/** The kernels' WebAssembly module as bytes; memory comes from outside. */
export async function compileKernels() {
  const { error, stderr, binary } = await asc.compileString(
    { 'index.ts': readFileSync(SOURCE, 'utf8') },
    {
      optimizeLevel: 3,
      shrinkLevel: 0,
      runtime: 'stub',
      importMemory: true,
      noExportMemory: true,
      enable: ['simd'],
    },
  )
  if (error) throw new Error(`${error.message}\n${stderr}`)
  return binary
}
