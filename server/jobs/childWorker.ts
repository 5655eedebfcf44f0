import { fork, type ChildProcess } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { constants, setPriority } from 'node:os'
import { HypometError } from '@hypomet/core'

/** What a lane needs of whoever does its work: a thread is one. */
export interface LaneWorker {
  postMessage(message: unknown): void
  /** `message`, `error` and `exit`. */
  on(event: string, hear: (...args: never[]) => void): unknown
  terminate(): Promise<unknown>
}

const LOOK_MS = 100
const PAGE = 4096

/** Bytes that a process has in memory, buffers counted; null where its system does not say. */
function residentOf(pid: number): number | null {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * PAGE
  } catch {
    return null
  }
}

/** Whoever looks at a page comes before a file that is read. */
function giveWay(pid: number | undefined): void {
  try {
    if (pid !== undefined) setPriority(pid, constants.priority.PRIORITY_BELOW_NORMAL)
  } catch {
    // A system that does not allow it shares its time evenly.
  }
}

/**
 * A process of its own for work on files of strangers: what it takes in memory is its own, and it is ended where that
 * is too much, whatever it is at.
 */
export class ChildWorker implements LaneWorker {
  private readonly child: ChildProcess
  private readonly watch: NodeJS.Timeout
  private readonly failed = new Set<(e: Error) => void>()

  /**
   * @param entry  file of the worker
   * @param data  as a thread's `workerData`
   * @param mostBytes  that it may have in memory
   */
  constructor(entry: string, data: unknown, { mostBytes, heapMb }: { mostBytes: number; heapMb: number }) {
    this.child = fork(entry, {
      serialization: 'advanced',
      execArgv: [`--max-old-space-size=${heapMb}`],
      env: { ...process.env, HYPOMET_WORKER_DATA: JSON.stringify(data) },
    })
    giveWay(this.child.pid)
    this.watch = setInterval(() => {
      const { pid } = this.child
      const bytes = pid === undefined ? null : residentOf(pid)
      if (bytes === null || bytes <= mostBytes) return
      this.fail(
        new HypometError(
          'too-large',
          `Reading this takes more than ${(mostBytes / 1024 ** 3).toFixed(1)} GB of memory: it was stopped. Nothing ` +
            'of it was kept.',
        ),
      )
    }, LOOK_MS).unref()
    this.child.once('exit', () => clearInterval(this.watch))
  }

  postMessage(message: unknown): void {
    this.child.send(message as never)
  }

  on(event: string, hear: (...args: never[]) => void): this {
    if (event === 'error') this.failed.add(hear as unknown as (e: Error) => void)
    this.child.on(event, hear as unknown as (...args: unknown[]) => void)
    return this
  }

  async terminate(): Promise<void> {
    clearInterval(this.watch)
    if (this.child.exitCode !== null || this.child.signalCode !== null) return
    const gone = new Promise(resolve => this.child.once('exit', resolve))
    this.child.kill('SIGKILL')
    await gone
  }

  private fail(e: Error): void {
    clearInterval(this.watch)
    for (const hear of this.failed) hear(e)
    this.child.kill('SIGKILL')
  }
}
