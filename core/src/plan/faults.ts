import type { Kind } from '../quantity/index'
import type { RigBlock } from '../method/stages'
import { SeededRandom } from '../statistics/random'

/** What can go wrong with a rig's readings, for those who rehearse. */
export const FAULT_KINDS = {
  'gauge-dies': 'goes dead: its reading stands still',
  'drifts': 'drifts away from its zero',
  'parts': 'parts from what it ought to read, a little more each second',
  'clips': 'clips: it reads no further',
  'dips': 'dips with the supply for two seconds',
} as const

export type FaultKind = keyof typeof FAULT_KINDS

export interface Fault {
  kind: FaultKind
  role: string
  label: string
  /** s on the run's clock. */
  at: number
}

/** What faults remember from block to block; plain data. */
export type FaultMemory = Record<string, number>

const DIP = { lasts: 2, left: 0.7 }
/** Share of its reading, and of its largest so far, that a gauge goes off in a second. */
const PART_RATE = 0.03
const DRIFT_RATE = 0.01

/** Readings as a rig with these faults gives them; nothing given is changed. */
export function applyFaults(faults: readonly Fault[], block: RigBlock, memory: FaultMemory): RigBlock {
  if (faults.length === 0) return block
  const channels = { ...block.channels }
  faults.forEach((f, i) => {
    const values = channels[f.role]
    if (values) channels[f.role] = values.map((v, k) => faulty(f, v, block.t[k]!, memory, `${i}`))
  })
  return { ...block, channels }
}

function faulty({ kind, at }: Fault, value: number, t: number, memory: FaultMemory, key: string): number {
  if (t < at) {
    memory[`${key}:last`] = value
    memory[`${key}:peak`] = Math.max(memory[`${key}:peak`] ?? 0, Math.abs(value))
    return value
  }
  const last = memory[`${key}:last`] ?? value
  const peak = memory[`${key}:peak`] ?? Math.abs(value)
  switch (kind) {
    case 'gauge-dies': return last
    case 'drifts': return value + DRIFT_RATE * peak * (t - at)
    case 'parts': return value * (1 - Math.min(0.9, PART_RATE * (t - at)))
    case 'clips': return Math.sign(value) * Math.min(Math.abs(value), Math.abs(last))
    case 'dips': return t < at + DIP.lasts ? value * DIP.left : value
  }
}

/** A surprise drawn from a seed: one channel that is read, somewhere in the middle of the ladder. */
export function drawFaults(seed: number, channels: readonly { role: string; label: string; kind: Kind; expression: string | null }[], duration: number): Fault[] {
  const random = new SeededRandom(seed ^ 0x5eed)
  const read = channels.filter(c => c.expression === null)
  const kinds = Object.keys(FAULT_KINDS) as FaultKind[]
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)]!
  const c = pick(read)
  return [{ kind: pick(kinds), role: c.role, label: c.label, at: Math.round((0.3 + 0.4 * random.uniform()) * duration) }]
}

export interface DebriefEvent {
  t: number
  kind: string
  by: string
  note: string
}

export interface DebriefRow {
  fault: Fault
  words: string
  /** First watch rule that spoke after it, first mark, hold or abort by a person, and the first hold or abort by whomever; s after the fault. */
  watched: { after: number; note: string } | null
  noticed: { after: number; by: string; kind: string } | null
  stopped: { after: number; by: string } | null
  /** Nobody and nothing spoke before the run ended, or the run ended before it came. */
  missed: boolean
  came: boolean
}

const MACHINE = new Set(['rig', 'watch rule'])

/** What was noticed when, what was missed, and how long it took until the ladder stood. */
export function debrief(faults: readonly Fault[], events: readonly DebriefEvent[], end: number): DebriefRow[] {
  return faults.map(fault => {
    const later = events.filter(e => e.t >= fault.at)
    const first = (is: (e: DebriefEvent) => boolean) => later.find(is)
    const watch = first(e => e.kind === 'watch')
    const person = first(e => ['mark', 'hold', 'abort', 'deviation'].includes(e.kind) && !MACHINE.has(e.by))
    const stopped = first(e => e.kind === 'hold' || e.kind === 'abort')
    const came = end >= fault.at
    return {
      fault, words: `${fault.label} ${FAULT_KINDS[fault.kind]}`, came,
      watched: watch ? { after: watch.t - fault.at, note: watch.note } : null,
      noticed: person ? { after: person.t - fault.at, by: person.by, kind: person.kind } : null,
      stopped: stopped ? { after: stopped.t - fault.at, by: stopped.by } : null,
      missed: came && !watch && !person,
    }
  })
}
