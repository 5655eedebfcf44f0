import { fork, type ChildProcess } from 'node:child_process'
import { rmSync } from 'node:fs'
import { connect } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Told } from '../live/rigs'
import { talk, type Line } from './rpc'

/** Pages that end by themselves are begun anew after so many ms, then twice as many, and so on. */
const [FIRST_WAIT, LONGEST_WAIT] = [200, 10_000]
const LOOK_MS = 30
/** A request waits so long for pages that are being started, ms. */
export const MOST_WAIT = 60_000

/** What the process of the pages tells its front. */
export interface HearsOfPages {
  /** The database is open: what ends from now on is begun anew, what ended before is not. */
  opened(): void | Promise<void>
}

/**
 * MB that pages may hold to begin with, and at most. Without a ceiling of its own a process lets garbage lie until the
 * machine is full; where one is too low for what is asked, the next one is twice as high.
 */
const [HEAP_MB, MOST_HEAP_MB] = [512, 8192]
/** How Node ends where its memory is full. */
const FULL = { signal: 'SIGABRT', code: 134 }

/** Somebody who has said more, or less, is heard. */
const heapOf = (mb: number, options = ''): string[] =>
  options.includes('max-old-space-size') ? [] : [`--max-old-space-size=${mb}`]

/**
 * The process that answers everything but runs: pages, records, reductions, imports. It may be as busy as it likes, or
 * fall over: it is begun anew, and runs go on meanwhile.
 */
export class Pages {
  readonly socketPath = join(tmpdir(), `hypomet-${process.pid}.sock`)
  private child: ChildProcess | null = null
  private told: Told | null = null
  private wait = FIRST_WAIT
  private wasReady = false
  private heapMb = HEAP_MB
  private ready: Promise<void> | null = null
  private isStopping = false

  /**
   * @param entry  file of the server of pages
   * @param ours  what it may ask of the runs
   * @param ended  it ended before it ever answered
   */
  constructor(
    private readonly entry: string,
    private readonly ours: object,
    private readonly ended: (code: number) => void,
  ) {}

  /** Who keeps what runs have to say. */
  get keeper(): Told {
    const now = (): Told => {
      if (!this.told) throw new Error('the process of the pages is not there')
      return this.told
    }
    return {
      broke: async (...args) => now().broke(...args),
      closed: async (...args) => now().closed(...args),
      rehearsed: async (...args) => now().rehearsed(...args),
    }
  }

  begin(): void {
    rmSync(this.socketPath, { force: true })
    const child = fork(this.entry, {
      serialization: 'advanced',
      execArgv: [...process.execArgv, ...heapOf(this.heapMb, process.env['NODE_OPTIONS'])],
      env: { ...process.env, NITRO_UNIX_SOCKET: this.socketPath, HYPOMET_BEHIND_FRONT: '1' },
    })
    this.child = child
    this.told = talk<Told, object>(lineTo(child), this.ours)
    child.on('exit', (code, signal) => {
      if (this.child !== child) return
      if (signal !== null && !this.isStopping && !this.wasReady)
        console.error(`The process that opens the database was ended by ${signal}: the file may be damaged.`)
      this.child = null
      this.ready = null
      this.told = null
      if (this.isStopping) return
      if (!this.wasReady) return this.ended(code ?? 1)
      if (signal === FULL.signal || code === FULL.code) this.heapMb = Math.min(2 * this.heapMb, MOST_HEAP_MB)
      console.error(`The process of the pages ended with ${code ?? signal}; it is begun anew, runs go on.`)
      setTimeout(() => this.begin(), this.wait)
      this.wait = Math.min(2 * this.wait, LONGEST_WAIT)
    })
  }

  opened(): void {
    this.wasReady = true
    this.wait = FIRST_WAIT
  }

  /** Resolves once it takes connections. @throws where it does not within a minute */
  there(): Promise<void> {
    return (this.ready ??= this.takesConnections().catch((e: unknown) => {
      this.ready = null
      throw e
    }))
  }

  private async takesConnections(): Promise<void> {
    const until = performance.now() + MOST_WAIT
    for (;;) {
      if (this.child && (await answers(this.socketPath))) return
      if (performance.now() > until) throw new Error('the process of the pages does not answer')
      await new Promise(resolve => setTimeout(resolve, LOOK_MS))
    }
  }

  async stop(): Promise<void> {
    this.isStopping = true
    const { child } = this
    if (child && child.exitCode === null) {
      const gone = new Promise(resolve => child.once('exit', resolve))
      child.kill('SIGTERM')
      await gone
    }
    rmSync(this.socketPath, { force: true })
  }
}

const lineTo = (child: ChildProcess): Line => ({
  send: m => void (child.connected && child.send(m as never)),
  onMessage: hear => child.on('message', hear),
  onLost: lost => child.on('disconnect', lost),
})

const answers = (path: string): Promise<boolean> =>
  new Promise(resolve => {
    const socket = connect(path)
    socket.once('connect', () => (socket.destroy(), resolve(true)))
    socket.once('error', () => resolve(false))
  })
