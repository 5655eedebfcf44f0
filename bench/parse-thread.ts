import { openSync, readSync } from 'node:fs'
import { parentPort, workerData } from 'node:worker_threads'
import { BlockReader } from '../core/src/formats/blocks'

/* Parses some blocks of a file to columns of float64, and nothing more. */
const { path, width } = workerData as { path: string; width: number }
const file = openSync(path, 'r')
const reader = new BlockReader({ delimiter: ',', width, slots: Int32Array.from({ length: width }, (_, i) => i) })
parentPort!.on('message', (blocks: { from: number; to: number }[]) => {
  let [rows, sum] = [0, 0]
  for (const { from, to } of blocks) {
    const bytes = new Uint8Array(to - from)
    readSync(file, bytes, 0, bytes.length, from)
    const block = reader.read(bytes, 0, bytes.length, 1)
    rows += block.rows
    sum += block.columns[1]![0]!
  }
  parentPort!.postMessage({ rows, sum })
})
