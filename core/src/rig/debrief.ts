import { FAULT_KINDS, faultWords, type Fault, type FaultOutline } from './faults'

export interface DebriefEvent {
  t: number
  kind: string
  by: string
  note: string
  /** Channels that it speaks of, a blank between; null where it is not about one. */
  role?: string | null
}

export interface DebriefRow {
  fault: Fault
  words: string
  /**
   * First watch rule or look at the channels that spoke of it, first mark, hold or abort by a person, and the first
   * hold or abort by whomever; s after the fault.
   */
  watched: { after: number; note: string } | null
  noticed: { after: number; by: string; kind: string } | null
  stopped: { after: number; by: string } | null
  /** Nobody and nothing spoke before the run ended, or the run ended before it came. */
  missed: boolean
  came: boolean
}

const MACHINES = new Set(['rig', 'watch rule', 'recorder', 'stream'])
const SPOKEN = new Set(['watch', 'health', 'clock', 'guard lost'])
/** What comes of a fault in the end: who hears of it then has not noticed the fault. */
const CONSEQUENCES = new Set(['article broke', 'fixture gave way'])
const BY_HAND = new Set(['mark', 'hold', 'stop', 'abort', 'deviation'])
const STANDING = new Set(['hold', 'stop', 'abort'])

/** What is said of one channel is no word about another; what is said of no channel is about nothing but the clock. */
function isAbout({ kind, role }: DebriefEvent, fault: Fault): boolean {
  const { shows = 'load' }: FaultOutline = FAULT_KINDS[fault.kind]
  if (shows === 'clock' || kind === 'clock') return shows === 'clock' && kind === 'clock'
  return shows === 'anywhere' || (role?.split(' ').includes(fault.role) ?? false)
}

/** What was noticed when, what was missed, and how long it took until the ladder stood. */
export function debrief(faults: readonly Fault[], events: readonly DebriefEvent[], end: number): DebriefRow[] {
  return faults.map(fault => {
    const later = events.filter(e => e.t >= fault.at)
    const over = later.find(e => CONSEQUENCES.has(e.kind))?.t ?? Infinity
    const before = later.filter(e => e.t < over)
    const watch = before.find(e => SPOKEN.has(e.kind) && isAbout(e, fault))
    const person = before.find(e => BY_HAND.has(e.kind) && !MACHINES.has(e.by))
    const stopped = later.find(e => STANDING.has(e.kind))
    const came = end >= fault.at
    return {
      fault,
      words: faultWords(fault),
      came,
      watched: watch ? { after: watch.t - fault.at, note: watch.note || watch.kind } : null,
      noticed: person ? { after: person.t - fault.at, by: person.by, kind: person.kind } : null,
      stopped: stopped ? { after: stopped.t - fault.at, by: stopped.by } : null,
      missed: came && !watch && !person,
    }
  })
}
