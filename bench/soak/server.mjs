// The built server with a database of its own, all its processes in one group, so that they can be killed at once.
import { spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { answers, caller } from '../api.mjs'

const PAGE = 4096
export const ROOT = join(import.meta.dirname, '../..')

export class Soaked {
  constructor(port, { folder = mkdtempSync(join(tmpdir(), 'hypomet-soak-')), env = {} } = {}) {
    this.port = port
    this.folder = folder
    this.base = `http://127.0.0.1:${port}`
    this.call = caller(this.base)
    this.env = env
  }

  get database() {
    return `file:${join(this.folder, 'hypomet.db')}`
  }

  async start(more = {}) {
    this.process = spawn('node', [join(ROOT, '.output/server/workers/front.mjs')], {
      stdio: ['ignore', 'ignore', process.env.VERBOSE ? 'inherit' : 'ignore'],
      detached: true,
      env: {
        ...process.env,
        HOST: '127.0.0.1',
        PORT: String(this.port),
        HYPOMET_DB: this.database,
        ...this.env,
        ...more,
      },
    })
    await answers(this.base)
    return this
  }

  /** As a power cut would: every process of it, at once. */
  async kill() {
    const gone = new Promise(resolve => this.process.once('exit', resolve))
    process.kill(-this.process.pid, 'SIGKILL')
    await gone
  }

  async stop() {
    const gone = new Promise(resolve => this.process.once('exit', resolve))
    this.process.kill('SIGTERM')
    await gone
  }

  /** Bytes in memory of each of its processes, by what each runs. */
  resident() {
    const group = this.process.pid
    const of = {}
    for (const pid of readdirSync('/proc').filter(n => /^\d+$/.test(n))) {
      try {
        const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
        if (Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[2]) !== group) continue
        const entry =
          readFileSync(`/proc/${pid}/cmdline`, 'utf8')
            .split('\0')
            .find(a => a.endsWith('.mjs')) ?? 'node'
        const name = entry.split('/').at(-1)
        of[name] = Math.max(of[name] ?? 0, Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * PAGE)
      } catch {
        // It ended meanwhile.
      }
    }
    return of
  }

  async job(id) {
    for (;;) {
      const job = await this.call('GET', `/api/jobs/${id}`)
      if (job.status !== 'running') return job
      await new Promise(resolve => setTimeout(resolve, 50))
    }
  }

  /** What a verification finds; nothing, where all is as it was written down. */
  async verify(asked = {}) {
    const { jobId } = await this.call('POST', '/api/proofs/verify', { slug: null, recompute: false, ...asked })
    const job = await this.job(jobId)
    if (job.status !== 'done') throw new Error(`the verification ended as ${job.status}: ${JSON.stringify(job)}`)
    return job.result.findings
  }

  async demo() {
    const { loadDemo } = await import(join(ROOT, '.output/demo/load.mjs'))
    return loadDemo(this.base, join(ROOT, 'demo/data'))
  }
}

export const pause = ms => new Promise(resolve => setTimeout(resolve, ms))
export const quantile = (values, p) =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(p * values.length))]
export const mb = bytes => `${(bytes / 2 ** 20).toFixed(0)} MB`

/** What a run of it found, and whether that is what is promised. */
export function line(what, measured, isMet) {
  console.log(`${isMet ? 'ok  ' : 'NOT '} ${what}: ${measured}`)
  if (!isMet) process.exitCode = 1
}
