import { Worker } from 'node:worker_threads'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { JobRunner, type LaneName } from '../jobs/runner'
import { refused } from './campaign'
import { temporaryDatabase } from './database'
import { until } from './until'

/** Answers what it is asked; is told in the payload to wait, to say how far it is, to be cancelled, or to die. */
const WORKER = `
  const { parentPort } = require('node:worker_threads')
  const cancelled = new Set()
  parentPort.on('message', async m => {
    if ('cancel' in m) return void cancelled.add(m.cancel)
    const { call, payload } = m
    if (payload.die === 'at once') process.exit(1)
    if (payload.die === 'by an error') setTimeout(() => { throw new Error('out of memory') })
    if (payload.die) return
    for (let i = 1; i <= (payload.steps ?? 0); i++) {
      await new Promise(resolve => setTimeout(resolve, 20))
      if (cancelled.has(call))
        return parentPort.postMessage({ call, error: { code: 'cancelled', message: 'Stopped.', place: {} } })
      parentPort.postMessage({ call, progress: { share: i / payload.steps, doing: 'step ' + i } })
    }
    if (payload.refuse)
      return parentPort.postMessage({ call, error: { code: 'no-data', message: 'No row.', place: { row: 3 } } })
    parentPort.postMessage({ call, result: payload.echo })
  })`

describe('the runner', () => {
  let server: Awaited<ReturnType<typeof temporaryDatabase>>
  let runner: JobRunner
  let spawned: LaneName[]
  beforeEach(async () => {
    server = await temporaryDatabase()
    spawned = []
    runner = new JobRunner(server.database, lane => {
      spawned.push(lane)
      return new Worker(WORKER, { eval: true })
    })
  })
  afterEach(async () => {
    await runner.close()
    server.close()
  })
  const call = (kind: 'reduce' | 'steps', payload: object) => runner.call(kind, payload as never) as Promise<unknown>
  const start = (payload: object) => runner.start('import', payload as never)

  it.each(['at once', 'by an error'])(
    'a worker that dies %s fails only the call that it had: the other lane and later calls go on',
    async die => {
      const elsewhere = call('steps', { steps: 10, echo: 'long' })
      const before = call('reduce', { echo: 'before' })
      const lost = refused(call('reduce', { die }))
      const after = call('reduce', { echo: 'after' })
      expect(await before).toBe('before')
      expect(await lost).toMatchObject({ code: 'worker-lost' })
      expect(await after).toBe('after')
      expect(await elsewhere).toBe('long')
      expect(spawned.toSorted()).toEqual(['long', 'quick', 'quick'])
    },
  )

  it('one that dies under a job leaves the job failed, with why', async () => {
    const id = await start({ die: 'at once' })
    await until(async () => (await runner.state(id)).status !== 'running')
    expect(await runner.state(id)).toMatchObject({ status: 'failed', error: { code: 'worker-lost' } })
  })

  it('tells whoever follows a job of each step and of its end', async () => {
    const id = await start({ steps: 3, echo: { rows: 7 } })
    const told: string[] = []
    let states = Promise.resolve()
    const leave = runner.follow(id, () => {
      states = states.then(async () => {
        const { status, doing } = await runner.state(id)
        told.push(status === 'running' ? doing : status)
      })
    })
    await until(async () => (await runner.state(id)).status === 'done')
    await states
    leave()
    expect(told.at(-1)).toBe('done')
    expect(told.filter(t => t.startsWith('step')).length).toBeGreaterThan(0)
    expect(await runner.state(id)).toMatchObject({ progress: 1, result: { rows: 7 } })
  })

  it('stops a job at its next step, and one that waits at once', async () => {
    const [first, second] = [await start({ steps: 500 }), await start({ steps: 500 })]
    runner.cancel(second)
    await until(async () => (await runner.state(second)).status === 'cancelled')
    expect((await runner.state(first)).status).toBe('running')
    runner.cancel(first)
    await until(async () => (await runner.state(first)).status === 'cancelled')
    expect(await refused(Promise.resolve().then(() => runner.cancel(first)))).toMatchObject({ code: 'not-found' })
  })

  it('hands on a refusal with its place', async () => {
    expect(await refused(call('reduce', { refuse: true }))).toMatchObject({ code: 'no-data', place: { row: 3 } })
  })

  it('gives up what an earlier process left, and says so', async () => {
    const id = await start({ steps: 500 })
    expect((await runner.leftBehind()).map(j => j.id)).toEqual([id])
    await runner.giveUp([id])
    expect((await runner.state(id)).status).toBe('failed')
  })
})
