import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { once } from 'node:events'
import {
  createWriteStream,
  existsSync,
  openSync,
  readFileSync,
  rmSync,
  writeFileSync,
  writeSync,
  closeSync,
} from 'node:fs'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { createClient } from '@libsql/client'
import { pack } from 'tar-stream'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { AuditHeads, type AuditHead } from '../db/connection/auditHead'
import { backupOf } from '../db/connection/backup'
import { takeLease } from '../db/connection/lease'
import { openConnection } from '../db/connection/client'
import { copyTo, lookAt, missingOriginals, sweepParts } from '../db/connection/condition'
import { takeDatabase } from '../db/connection/ownership'
import { restore } from '../../cli/src/restore'
import { storeTrouble } from '../db/connection/trouble'
import { recordJudgement } from '../db/results/judgements'
import { assertWritable } from '../sentJson'
import { assertAllowed } from '../live/streamSetUp'
import type { ProofFinding } from '../db/proofs/verify'
import { recompute } from '../jobs/recompute'
import { resultsJson } from '../reports/results'
import { ANSWERED, armWithPlan, BY, demoFile, importBytes, makeReady, reduceAndKeep, refused } from './campaign'
import { temporaryDatabase } from './database'
import { until } from './until'

let server: Awaited<ReturnType<typeof temporaryDatabase>>
let testId: number
beforeEach(async () => {
  server = await temporaryDatabase()
  ;({ testId } = await armWithPlan(server.database))
})
afterEach(() => server.close())

const rename = (title: string) => server.worker.$client.execute({ sql: 'update campaign set title = ?', args: [title] })
const pause = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))

describe('one owner', () => {
  it('a second start is refused with who holds it; one that died is taken over, whoever has its number', async () => {
    const other = spawn('sleep', ['30'])
    await once(other, 'spawn')
    const began = (pid: number) => readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ')[19]!
    const lock = `${server.path}.lock`
    const heldBy = (holder: object) => writeFileSync(lock, JSON.stringify(holder))
    heldBy({ pid: other.pid, began: began(other.pid!), at: '2026-11-30T10:00:00.000Z' })
    expect(() => takeDatabase(server.url)).toThrowError(new RegExp(`process ${other.pid}, since 30 Nov 2026`))
    heldBy({ pid: other.pid, began: '1', at: '2026-11-30T10:00:00.000Z' })
    const ours = takeDatabase(server.url)
    expect(JSON.parse(readFileSync(lock, 'utf8'))).toMatchObject({ pid: process.pid })
    expect(() => takeDatabase(server.url)).toThrowError(/is open in another Hypomet/)
    ours.release()
    expect(existsSync(lock)).toBe(false)
    heldBy({ pid: other.pid, began: began(other.pid!), at: '2026-11-30T10:00:00.000Z' })
    other.kill()
    await once(other, 'exit')
    takeDatabase(server.url).release()
    writeFileSync(lock, '')
    expect(() => takeDatabase(server.url)).toThrowError(/says nothing of who/)
  })

  it('is looked at before it is changed: newer, damaged, and a copy of one that gets a new form', async () => {
    const { client } = server.database
    const look = () => lookAt(client, server.migrations, { path: server.path })
    const { schema, known } = await look()
    expect(schema).toBe(known)
    const copy = join(server.path, '..', 'copy.db')
    await copyTo(client, copy)
    const copied = await openConnection(`file:${copy}`)
    expect((await copied.$client.execute('select count(*) n from test')).rows[0]!['n']).toBe(1)
    copied.$client.close()
    await client.execute("insert into __drizzle_migrations (hash, created_at) values ('later', 99999999999999)")
    expect(await refused(look())).toMatchObject({
      code: 'schema-newer',
      message: expect.stringContaining(`number ${schema + 1}`) as string,
    })
    await client.execute("delete from __drizzle_migrations where hash = 'later'")
    await server.database.settle()
    const { rows } = await client.execute("select rootpage from sqlite_master where name = 'sensor'")
    const file = openSync(server.path, 'r+')
    writeSync(file, Buffer.alloc(65_536, 0xff), 0, 65_536, 65_536 * (Number(rows[0]!['rootpage']) - 1))
    closeSync(file)
    const anew = await openConnection(server.url)
    expect(await refused(lookAt(anew.$client, server.migrations, { path: server.path }))).toMatchObject({
      code: 'store-damaged',
    })
    anew.$client.close()
  })

  it('another program’s lock keeps the change waiting and nothing else; a damaged page ends all writing', async () => {
    const other = await openConnection(server.url)
    const theirs = await other.$client.transaction('write')
    let [latest, last] = [0, performance.now()]
    const beat = setInterval(() => {
      latest = Math.max(latest, performance.now() - last)
      last = performance.now()
    }, 5)
    const saved = server.database.write(async db => void (await db.run("update campaign set title = 'late'")))
    await pause(400)
    await theirs.commit()
    other.$client.close()
    await saved
    clearInterval(beat)
    expect(latest).toBeLessThan(150)
    const { rows } = await server.database.client.execute('select title from campaign')
    expect(rows[0]!['title']).toBe('late')

    const corrupt = Object.assign(new Error('x', { cause: Object.assign(new Error('y'), { code: 'SQLITE_CORRUPT' }) }))
    expect(storeTrouble(corrupt)).toMatchObject({ code: 'store-damaged' })
    await refused(server.database.write(() => Promise.reject(corrupt)))
    expect(await refused(server.database.write(() => Promise.resolve()))).toMatchObject({ code: 'store-damaged' })
  })

  it('misses its originals by name, and sweeps what uploads left', async () => {
    await makeReady(server.database, testId)
    await importBytes(server, testId, demoFile('hanger-arm-b.csv'))
    const missing = () => missingOriginals(server.database.client, sha256 => server.originals.path(sha256))
    expect(await missing()).toEqual([])
    const { rows } = await server.database.client.execute('select sha256 from dataset')
    const path = server.originals.path(String(rows[0]!['sha256']))
    writeFileSync(`${path}.part`, 'half')
    expect(await sweepParts(join(server.path, '..', 'originals'))).toBe(1)
    rmSync(path)
    expect(await missing()).toMatchObject([{ name: 'arm.csv', testId }])
  })
})

describe('a database on a server of its own', () => {
  const clientOf = () => createClient({ url: server.url })
  it('belongs to whoever renews the lease; one that lapses is taken over, and its holder hears of it', async () => {
    const [ours, theirs] = [clientOf(), clientOf()]
    const lost: string[] = []
    const lease = await takeLease(ours, { holder: 'A', renewMs: 20, lost: why => lost.push(why) })
    const take = () => takeLease(theirs, { holder: 'B', lost: () => undefined })
    expect(await refused(take())).toMatchObject({ code: 'database-held', message: expect.stringContaining('A, since') })
    // The same one again, after its pages fell over.
    await (await takeLease(ours, { holder: 'A', renewMs: 20, lost: () => undefined })).release()
    await (await take()).release()
    await until(() => lost.length > 0)
    expect(lost).toEqual(['Another Hypomet has taken the database over.'])
    await lease.release()

    await takeLease(ours, { holder: 'A', renewMs: 1e6, lost: () => undefined })
    await theirs.execute('update lease set renewed = renewed - 20')
    await (await take()).release()
    for (const c of [ours, theirs]) c.close()
  })
})

describe('what is stored, held against what was written down', () => {
  const heads = () => AuditHeads.beside(server.path)
  const verified = (exported: AuditHead[] = []) =>
    server.run('verify', { path: server.path, slug: null, heads: exported })
  const kinds = (found: ProofFinding[]) => [...new Set(found.map(f => f.kind))].sort()
  const sql = (text: string) => server.worker.$client.execute(text)
  beforeEach(async () => {
    await makeReady(server.database, testId)
    await importBytes(server, testId, demoFile('hanger-arm-b.csv'))
    await reduceAndKeep(server, testId)
    await recordJudgement(server.database, BY, testId, {
      ...{ validity: 'valid', cause: 'none', place: '', mode: '', note: '', answers: ANSWERED },
    })
    await heads().note(server.database.read)
  })

  it('holds, recomputed to the same digits', async () => {
    expect(await verified()).toMatchObject({ findings: [], originals: 1, reductions: 1, signatures: 2 })
    const anew = () => recompute(server.database.read, null, asked => server.run('reduce', asked))
    expect(await anew()).toEqual({ findings: [], recomputed: 1 })
    await sql("update reduction set settings = replace(settings, '3200', '3300')")
    expect((await anew()).findings).toMatchObject([{ kind: 'result', testId }])
  })

  it.each([
    ['a result', 'update reduction set output = replace(output, \'"value":\', \'"value":1\')', ['result']],
    [
      'a result and its digest',
      `update reduction set output = '{}', output_sha256 = '${createHash('sha256').update('{}').digest('hex')}'`,
      ['result'],
    ],
    ['who kept a result', "update reduction set by = 'Mallory'", ['signature']],
    ['who signed a judgement', "update judgement set by = 'Mallory'", ['signature']],
    ['a verdict', "update judgement set validity = 'invalid'", ['signature']],
    ['who released a plan', "update plan_version set by = 'Mallory'", ['signature']],
    ['an entry of the trail', "update audit set who = 'Mallory' where what = 'judge'", ['audit trail', 'signature']],
    ['the end of the trail', 'delete from audit where id = (select max(id) from audit)', ['audit trail', 'signature']],
    ['samples', 'update chunk set data = extremes where seq = 0', ['samples']],
  ])('finds %s that was changed by SQL', async (_, change, wanted) => {
    await sql(change)
    expect(kinds((await verified()).findings)).toEqual(wanted)
  })

  it('finds an original that was changed, a trail that was written anew, and a head that was', async () => {
    const { rows } = await sql('select sha256 from dataset')
    writeFileSync(server.originals.path(String(rows[0]!['sha256'])), 'other bytes')
    expect((await verified()).findings).toMatchObject([{ kind: 'original', testId }])
    // The whole trail anew, each entry rightly chained, lacks what it ended with.
    await sql("update audit set hash = 'f' || substr(hash, 2) where id = (select max(id) from audit)")
    const before = heads().newest
    await heads().note(server.database.read)
    expect(heads().newest).toEqual(before)
    const kept = JSON.parse(readFileSync(`${server.path}.heads`, 'utf8')) as { newest: { count: number } }
    writeFileSync(`${server.path}.heads`, JSON.stringify({ ...kept, newest: { ...kept.newest, count: 1 } }))
    const said = (await verified()).findings.map(f => f.message).join(' ')
    expect(said).toMatch(/not signed with the key/)
    expect(said).toMatch(/written anew/)
  })

  it('an export tells what is missing where nothing beside the database does', async () => {
    const { auditHead } = await resultsJson(server.database, testId, heads().newest)
    expect((await verified([auditHead!])).findings).toEqual([])
    const cut = 'delete from audit where id = (select max(id) from audit)'
    await sql(cut)
    rmSync(`${server.path}.heads`)
    await heads().note(server.database.read)
    const told = (found: ProofFinding[]) => found.filter(f => f.kind === 'audit trail').map(f => f.message)
    expect(told((await verified()).findings)).toEqual([])
    expect(told((await verified([auditHead!])).findings)).toEqual([
      expect.stringMatching(/^As an export says: .* is gone/),
    ])
    const other = { ...auditHead!, mac: auditHead!.mac.replace(/^./, c => (c === '0' ? '1' : '0')) }
    expect(told((await verified([other])).findings)).toEqual([expect.stringMatching(/not signed with the key/)])
  })

  it('what an earlier build stored is held by what it says of itself', async () => {
    await sql('update chunk set sum = null')
    expect((await verified()).findings).toEqual([])
    await sql('update chunk set max = min where max > min')
    expect(kinds((await verified()).findings)).toEqual(['samples'])
  })

  it('is backed up while it goes on, and comes back whole or not at all', async () => {
    const folder = join(server.path, '..')
    const made = await backupOf(server.url, {
      originals: join(folder, 'originals'),
      software: '0',
      head: heads().newest,
      copyInto: path => server.run('copy', { path }),
    })
    await rename('afterwards')
    const file = join(folder, 'backup.tar')
    await pipeline(made.archive, createWriteStream(file))
    const back = join(folder, 'back')
    expect(await restore(file, back)).toMatchObject({ originals: 1 })
    const restored = await openConnection(`file:${join(back, 'hypomet.db')}`)
    const { rows } = await restored.$client.execute('select title from campaign')
    expect(rows[0]!['title']).not.toBe('afterwards')
    restored.$client.close()
    expect(await refused(restore(file, back))).toMatchObject({ code: 'taken' })
    // A member that would go elsewhere.
    const evil = pack()
    evil.entry({ name: 'manifest.json' }, JSON.stringify(made.manifest))
    evil.entry({ name: '../../elsewhere' }, 'x')
    evil.finalize()
    await pipeline(evil as unknown as NodeJS.ReadableStream, createWriteStream(join(folder, 'evil.tar')))
    expect((await refused(restore(join(folder, 'evil.tar'), join(folder, 'other')))).message).toMatch(/no place in it/)
    const bytes = readFileSync(file)
    const spoilt = join(folder, 'spoilt.tar')
    for (const [change, why] of [
      [(b: Buffer) => b.subarray(0, b.length - 200_000), /cannot be read|missing|not as it was/],
      [(b: Buffer) => (b.writeUInt8(b[700_000]! ^ 1, 700_000), b), /not as it was written down/],
      [() => Buffer.alloc(0), /empty/],
    ] as const) {
      writeFileSync(spoilt, change(Buffer.from(bytes)))
      const e = await refused(restore(spoilt, join(folder, 'other')))
      expect(e.code).toBe('backup-broken')
      expect(e.message).toMatch(why)
      expect(existsSync(join(folder, 'other'))).toBe(false)
    }
  })
})

describe('the door', () => {
  it('takes what a person could have written', () => {
    const why = (v: unknown, o = {}) => {
      try {
        assertWritable(v, o)
        return null
      } catch (e) {
        return (e as { place: { path: string } }).place.path
      }
    }
    expect(why({ title: 'x'.repeat(400), note: 'y'.repeat(40_000) })).toBeNull()
    expect(why({ rows: [{ title: 'x'.repeat(501) }] })).toBe('rows.0.title')
    expect(why({ note: 'x'.repeat(50_001) })).toBe('note')
    expect(why({ text: 'x'.repeat(5_000_000) }, { isRows: true })).toBeNull()
    let deep: unknown = 1
    for (let i = 0; i < 100; i++) deep = [deep]
    expect(why(deep)).toMatch(/^0\.0/)
  })

  it('reads streams from folders and machines that were named, by whatever way they are written', async () => {
    const folder = join(server.path, '..', 'streams')
    const sources = { folders: [folder], hosts: ['rig.example'] }
    const code = async (where: Parameters<typeof assertAllowed>[0]) =>
      (
        await assertAllowed(where, sources).then(
          () => ({ code: 'allowed' }),
          (e: { code: string }) => e,
        )
      ).code
    expect(await code({ kind: 'file', path: join(folder, 'run.csv') })).toBe('allowed')
    expect(await code({ kind: 'file', path: join(folder, '..', 'test.db') })).toBe('stream-elsewhere')
    expect(await code({ kind: 'file', path: `${folder}-other/run.csv` })).toBe('stream-elsewhere')
    expect(await code({ kind: 'tcp', host: '127.0.0.1', port: 5025 })).toBe('allowed')
    expect(await code({ kind: 'tcp', host: 'Rig.Example', port: 5025 })).toBe('allowed')
    expect(await code({ kind: 'tcp', host: '169.254.169.254', port: 80 })).toBe('stream-elsewhere')
  })
})
