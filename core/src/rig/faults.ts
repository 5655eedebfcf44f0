import { SeededRandom } from '../statistics/random'
import type { RigBlock } from './block'

export interface FaultOutline {
  /** With the channel's name before it, or “The rig”. */
  words: string
  /** A fault of one gauge, or of the whole rig. */
  of: 'channel' | 'rig'
  /** Where a fault of the rig shows: on its own channel alone, on any, or in the stamps. */
  shows?: 'load' | 'anywhere' | 'clock'
}

/** What can go wrong, for those who rehearse. */
export const FAULT_KINDS = {
  'gauge-dies': { of: 'channel', words: 'goes dead: its reading stands still' },
  drifts: { of: 'channel', words: 'drifts away from its zero' },
  parts: { of: 'channel', words: 'parts from what it ought to read, a little more each second' },
  clips: { of: 'channel', words: 'clips: it reads no further' },
  'over-range': { of: 'channel', words: 'reads three times too much: its range is set wrong' },
  slips: { of: 'rig', shows: 'anywhere', words: 'slips in its grips: a fifth of the load is gone at once' },
  leaks: { of: 'rig', shows: 'load', words: 'leaks: the load falls in every hold' },
  'gives-early': { of: 'rig', shows: 'anywhere', words: 'bends more and more and gives way early' },
  'clock-runs-fast': { of: 'rig', shows: 'clock', words: 'stamps its samples by a clock that runs 2 % fast' },
  dips: { of: 'rig', shows: 'anywhere', words: 'loses a third of its supply for two seconds' },
} as const satisfies Record<string, FaultOutline>

export type FaultKind = keyof typeof FAULT_KINDS

export interface Fault {
  kind: FaultKind
  /** Channel that it befalls; that of the load for a fault of the whole rig. */
  role: string
  label: string
  /** s on the run's clock. */
  at: number
}

export const faultWords = ({ kind, label }: Fault): string =>
  `${FAULT_KINDS[kind].of === 'rig' ? 'The rig' : label} ${FAULT_KINDS[kind].words}`

/** What faults remember from block to block; plain data. */
export type FaultMemory = Record<string, number>

const DIP = { lasts: 2, left: 2 / 3 }
/** Share of its reading, and of its largest so far, that a gauge goes off in a second. */
const PART_RATE = 0.03
const DRIFT_RATE = 0.01
const WRONG_RANGE = 3
const FAST_CLOCK = 0.02

/**
 * Readings and stamps as a logger with these faults gives them; nothing given is changed. What befalls the article is
 * done by the rig itself.
 */
export function applyFaults(faults: readonly Fault[], block: RigBlock, memory: FaultMemory): RigBlock {
  if (faults.length === 0) return block
  const channels = { ...block.channels }
  let t = block.t
  faults.forEach((f, i) => {
    const hit =
      f.kind === 'dips'
        ? Object.keys(channels)
        : FAULT_KINDS[f.kind].of === 'channel' && channels[f.role]
          ? [f.role]
          : []
    for (const role of hit) channels[role] = channels[role]!.map((v, k) => faulty(f, v, block.t[k]!, memory, `${i}`))
    if (f.kind === 'clock-runs-fast') t = t.map(s => (s > f.at ? s + FAST_CLOCK * (s - f.at) : s))
  })
  return { ...block, t, channels }
}

function faulty({ kind, at }: Fault, value: number, t: number, memory: FaultMemory, key: string): number {
  if (kind === 'dips') return t >= at && t < at + DIP.lasts ? value * DIP.left : value
  if (t < at) {
    memory[`${key}:last`] = value
    memory[`${key}:peak`] = Math.max(memory[`${key}:peak`] ?? 0, Math.abs(value))
    return value
  }
  const last = memory[`${key}:last`] ?? value
  const peak = memory[`${key}:peak`] ?? Math.abs(value)
  switch (kind) {
    case 'gauge-dies':
      return last
    case 'drifts':
      return value + DRIFT_RATE * peak * (t - at)
    case 'parts':
      return value * (1 - Math.min(0.9, PART_RATE * (t - at)))
    case 'clips':
      return Math.sign(value) * Math.min(Math.abs(value), Math.abs(last))
    case 'over-range':
      return value * WRONG_RANGE
    default:
      return value
  }
}

/** Rig faults that the stand-in of a rig acts out: what is lost at once, a second, and of the strength. */
export const ACTED = { slip: 0.2, leakRate: 0.004, strengthLeft: 0.6 }

/** A surprise drawn from a seed: one channel that is read, or the rig, somewhere in the middle of the ladder. */
export function drawFaults(
  seed: number,
  channels: readonly { role: string; label: string; expression: string | null }[],
  commanded: string,
  duration: number,
): Fault[] {
  const random = new SeededRandom(seed ^ 0x5eed)
  const read = channels.filter(c => c.expression === null)
  const kinds = Object.keys(FAULT_KINDS) as FaultKind[]
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)]!
  const kind = pick(kinds)
  const drawn = pick(read)
  const c = FAULT_KINDS[kind].of === 'rig' ? (read.find(r => r.role === commanded) ?? drawn) : drawn
  return [{ kind, role: c.role, label: c.label, at: Math.round((0.3 + 0.4 * random.uniform()) * duration) }]
}
