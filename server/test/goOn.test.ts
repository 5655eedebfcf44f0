import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { createJob } from '../db/records/jobs'
import { discard } from '../db/records/importing'
import { audit, run } from '../db/schema'
import { goOn } from '../jobs/imports'
import { JobRunner } from '../jobs/runner'
import { importBytes, readyServer, type TestServer } from './campaign'
import { until } from './until'

/** Answers everything with nothing: what follows an import is the server's own work, and health is not looked at. */
const idle = () => ({
  on(this: { heard?: (m: unknown) => void }, event: string, heard: (m: unknown) => void) {
    if (event === 'message') this.heard = heard
  },
  postMessage(this: { heard?: (m: unknown) => void }, { call }: { call: number }) {
    queueMicrotask(() => this.heard?.({ call, result: null }))
  },
  terminate: async () => 0,
})

describe('an import that a server left', () => {
  let server: TestServer
  let testId: number
  let jobs: JobRunner
  beforeEach(async () => {
    ;({ server, testId } = await readyServer())
    jobs = new JobRunner(server.database, idle as never)
  })
  afterEach(async () => {
    await jobs.close()
    server.close()
  })

  const left = (datasetId: number) =>
    server.database.write(db => createJob(db, 'import', { testId, datasetId, by: 'Ada', end: 'ladder done' }))
  const began = () => goOn({ database: server.database, jobs }, id => server.database.write(db => discard(db, id)))
  const rows = () => server.database.read.select().from(run)

  it('whose file was in, and nothing that follows was done, is followed: it is a run, once', async () => {
    const text = 'Time [s],Load [kN],Tip [mm]\n0,0,0\n1,1,2\n2,2,4\n3,3,6\n'
    const { datasetId, runId } = await importBytes(server, testId, new TextEncoder().encode(text))
    await server.database.write(db => db.delete(run).where(eq(run.id, runId!)))
    const id = await left(datasetId)
    await began()
    await until(async () => (await jobs.state(id)).status === 'done')
    const [made, ...more] = await rows()
    expect([made?.datasetId, made?.by, more.length]).toEqual([datasetId, 'Ada', 0])
    expect((await jobs.state(id)).result).toMatchObject({ runId: made!.id, datasetId })

    // What was done to its end but for the word of it is not done twice.
    const again = await left(datasetId)
    await began()
    await until(async () => (await jobs.state(again)).status === 'done')
    const done = await server.database.read.select().from(audit).where(eq(audit.what, 'import done'))
    expect([(await rows()).length, done.length]).toEqual([1, 2])
    expect((await jobs.state(again)).result).toMatchObject({ runId: made!.id })
  })

  it('whose record was taken back is given up, and says so', async () => {
    const id = await left(999)
    await began()
    expect(await jobs.state(id)).toMatchObject({ status: 'failed', error: { code: 'interrupted' } })
  })
})
