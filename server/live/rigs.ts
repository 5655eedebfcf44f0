import { HypometError, type RigCommand } from '@hypomet/core'
import type { Recorder } from '../db/records/recorder'
import type { Broke, LiveEvent } from '../db/schema'
import { UNNAMED } from '../db/connection/unnamed'
import type { LiveFrame } from './frame'
import { LiveRun, type Console, type Going } from './run'
import { driverOf, type RunSetUp } from './runSetUp'

/** What may be said to a run; `value` is a reading or a load, SI. */
export interface RunCommand {
  command:
    | RigCommand
    | 'call-out'
    | 'mark'
    | 'photo'
    | 'reason'
    | 'deviation'
    | 'take'
    | 'pass'
    | 'read'
    | 'strike'
    | 'tare'
    | 'let-go'
  note: string
  /** Of what is struck out: when it was read, s on the run's clock, and on which channel. */
  at?: number | null
  role?: string
  /** Of a break. */
  mode?: string
  place?: string
  value: number | null
  to: string
  /** s of baseline */
  seconds?: number
  /** By role, SI. */
  readings?: Record<string, number>
}

const NAMED = new Set<RunCommand['command']>(['go', 'count-down', 'take', 'deviation', 'broke', 'tare', 'strike'])

/** What runs have to say to where the database is. */
export interface Told {
  /** The article broke, with what was seen of it. */
  broke(runId: number, seen: Broke): Promise<void>
  /** A run is over and its record whole. */
  closed(runId: number): Promise<void>
  /** A rehearsal is over: what happened in it. */
  rehearsed(runId: number, what: { t: number; end: string; events: LiveEvent[] }): Promise<void>
}

/** Runs that go on, wherever they do: in this process, or in one that nothing else keeps waiting. */
export interface Rigs {
  /** Takes up a run or a rehearsal; a rehearsal of the same test ends for a run. @throws `already-running` */
  begin(setUp: RunSetUp): void | Promise<void>
  command(runId: number, by: string, command: RunCommand): void | Promise<void>
  /** Whether an accepted abort is on the disk; false where the disk kept it waiting. */
  isOnDisk(runId: number): Promise<boolean>
  going(): Going[] | Promise<Going[]>
  /** Makes an interrupted recording a record. */
  close(runId: number, end: string | null): Promise<void>
}

/** Where consoles look on. */
export interface RigConsoles {
  /** What has happened so far, and from then on every frame. @throws HypometError `not-running` */
  join(runId: number, who: string, send: (frame: LiveFrame) => void): { leave(): void; draw(roles: string[]): void }
}

/** A command, answered: an abort once it is on the disk, unless the disk keeps it waiting. */
export async function obey(
  rigs: Pick<Rigs, 'command' | 'isOnDisk'>,
  runId: number,
  by: string,
  command: RunCommand,
): Promise<{ ok: true; isStored: boolean }> {
  await rigs.command(runId, by, command)
  return { ok: true, isStored: command.command === 'abort' ? await rigs.isOnDisk(runId) : true }
}

/** A run owns its console: no rehearsal takes it. @throws HypometError `already-running` */
export function assertNoRunOn(going: readonly Going[], testId: number): void {
  if (going.some(g => g.testId === testId && !g.isRehearsal))
    throw new HypometError('already-running', 'A run of this test is on: its console is not taken for a rehearsal.')
}

/** A store that does not open keeps no run waiting for longer. */
const MOST_WARM_MS = 3000

/** Drivers, recorder, watch rules, clock and aborts of all runs that go on. It knows no database but the recorder's. */
export class LiveRigs implements Rigs, RigConsoles {
  private readonly live = new Map<number, LiveRun>()

  constructor(
    private readonly recorder: Recorder,
    private readonly told: Told,
  ) {}

  /** A run begins once what it brings can be stored, or after a while all the same. */
  async begin(setUp: RunSetUp): Promise<void> {
    if (!setUp.isRehearsal && this.recorder.warm)
      await Promise.race([
        this.recorder.warm().catch(() => undefined),
        new Promise(r => setTimeout(r, MOST_WARM_MS).unref()),
      ])
    const { runId, testId, isRehearsal, before, driver: _from, ...rest } = setUp
    if (isRehearsal) assertNoRunOn(this.going(), testId)
    // A run owns its console: a rehearsal of the same test ends for it.
    else
      for (const g of this.going())
        if (g.testId === testId && g.isRehearsal)
          this.live.get(g.runId)!.command('abort', setUp.controls, 'a run begins')
    const run = new LiveRun({
      ...rest,
      runId,
      testId,
      driver: driverOf(setUp),
      recorder: isRehearsal ? null : this.recorder,
      ended: what => (isRehearsal ? this.told.rehearsed(runId, what) : this.close(runId, what.end)),
    })
    if (before) run.prime(before.zero, before.guides, before.events)
    this.live.set(runId, run)
    run.onClosed = () => this.live.delete(runId)
    run.start()
  }

  /** @throws HypometError `not-running`, `no-controls`, `missing-name`, `missing-reason`, `not-by-hand` */
  command(
    runId: number,
    by: string,
    { command, note, value, to, seconds, readings = {}, mode = '', place = '', at = null, role = '' }: RunCommand,
  ): void {
    const live = this.live.get(runId)
    if (!live) throw new HypometError('not-running', 'This run is not going on.')
    if (by === UNNAMED && NAMED.has(command))
      throw new HypometError('missing-name', 'Say who you are, top right: this goes into the record by name.')
    if (command === 'deviation' && (value === null || note.trim() === ''))
      throw new HypometError('missing-reason', 'A deviation needs its size and what was done.', {
        path: value === null ? 'value' : 'note',
      })
    if (command === 'stop' && note.trim() === '')
      throw new HypometError('missing-reason', 'A stop needs its reason; an abort does not.', { path: 'note' })
    switch (command) {
      case 'call-out':
        return value === null ? live.note(command, by, note) : live.shout(by, value, note)
      case 'strike':
        if (at === null || value === null)
          throw new HypometError('no-reading', 'Say which reading is struck out, and what is right.', { path: 'value' })
        return live.strike(by, at, role, value, note)
      case 'mark':
      case 'photo':
      case 'reason':
        return live.note(command, by, note)
      case 'deviation':
        return live.deviate(by, value!, note)
      case 'take':
        return live.passControls(by, by)
      case 'pass':
        return live.passControls(by, to)
      case 'read':
        return live.read(by, readings)
      case 'tare':
        return live.takeTare(by, value === 1)
      case 'let-go':
        return live.letGo(by)
      case 'broke':
        return this.broke(runId, by, live, { peak: value, mode: mode.trim(), place: place.trim(), note: note.trim() })
      default:
        return live.command(command, by, note, seconds)
    }
  }

  async isOnDisk(runId: number): Promise<boolean> {
    return (await this.live.get(runId)?.settled())?.isStored ?? true
  }

  /** From memory, for every page. */
  going(): Going[] {
    return [...this.live].map(([runId, live]) => ({ runId, ...live.going() }))
  }

  async close(runId: number, end: string | null): Promise<void> {
    await this.recorder.close(runId, end)
    // The record is there: what follows from it can be worked out later as well.
    this.told.closed(runId).catch((e: unknown) => console.error(`Run ${runId}: what the plan derives is missing.`, e))
  }

  join(...[runId, who, send]: Parameters<RigConsoles['join']>): ReturnType<RigConsoles['join']> {
    const live = this.live.get(runId)
    if (!live) throw new HypometError('not-running', 'This run is not going on.')
    const console: Console = { who, roles: [], send }
    const leave = live.join(console)
    return { leave, draw: roles => live.draw(console, roles) }
  }

  async stopAll(): Promise<void> {
    await Promise.all([...this.live.values()].map(l => l.stop()))
    this.live.clear()
  }

  /** Kept with the run before it ends: Judge begins from it. */
  private broke(runId: number, by: string, live: LiveRun, seen: Broke): void {
    const words = [[seen.mode, seen.place].filter(Boolean).join(', '), seen.note].filter(Boolean).join(': ')
    live.broke(by, { peak: seen.peak, words })
    // The words stand among the run's events as well: a store that does not take this one loses nothing of them.
    this.told
      .broke(runId, seen)
      .catch((e: unknown) => console.error(`Run ${runId}: how it broke could not be kept beside it.`, e))
  }
}
