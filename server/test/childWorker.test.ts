import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { ChildWorker } from '../jobs/childWorker'
import { Lane } from '../jobs/lane'
import { refused } from './campaign'

/** Work of its own process: says back what it was asked, eats memory, stands still, or falls over. */
const WORKER = `
const given = JSON.parse(process.env.HYPOMET_WORKER_DATA)
const kept = []
process.on('message', async ({ call, kind, payload }) => {
  if (kind === 'eat') for (;;) { kept.push(Buffer.alloc(20e6, 1)); await new Promise(r => setTimeout(r, 20)) }
  if (kind === 'stand') for (;;);
  if (kind === 'fall') process.exit(3)
  process.send({ call, result: { payload, given } })
})
process.on('disconnect', () => process.exit(0))
`

describe('a lane whose work is a process of its own', () => {
  let folder: string
  let lane: Lane
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'hypomet-child-'))
    writeFileSync(join(folder, 'worker.mjs'), WORKER)
    const spawn = () => new ChildWorker(join(folder, 'worker.mjs'), { url: 'x' }, { mostBytes: 300e6, heapMb: 64 })
    lane = new Lane(spawn, 1500)
  })
  afterEach(async () => {
    await lane.close()
    rmSync(folder, { recursive: true })
  })
  let call = 0
  const ask = (kind: string) =>
    new Promise<unknown>((resolve, reject) =>
      lane.add({ call: ++call, kind, payload: new Float64Array([1, NaN]), resolve, reject, progress: () => {} }),
    )

  it('answers, and goes on after what ate memory, stood still or fell over', async () => {
    expect(await ask('say')).toEqual({ payload: new Float64Array([1, NaN]), given: { url: 'x' } })
    expect(await refused(ask('eat'))).toMatchObject({
      code: 'too-large',
      message: expect.stringContaining('memory') as string,
    })
    const standing = refused(ask('stand'))
    // What waits behind it is answered by the process that follows.
    const behind = ask('say')
    expect((await standing).message).toMatch(/longer than 2 s/)
    expect(await behind).toMatchObject({ given: { url: 'x' } })
    expect((await refused(ask('fall'))).code).toBe('worker-lost')
    expect(await ask('say')).toMatchObject({ given: { url: 'x' } })
  })
})
