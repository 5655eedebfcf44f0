import type { LadderRung } from '../plan/ladder'

/** `waiting` is a hold that ends when somebody says go. */
export type RigPhase = 'ramp' | 'hold' | 'waiting' | 'paused' | 'unloading' | 'ended'
export type RigEnd = 'ladder done' | 'aborted' | 'stopped' | 'article broke' | 'fixture gave way'
/**
 * `stop` comes down as gently as the ladder went up, `abort` at once; `broke` says that the article did, and there is
 * nothing to come down from; `reached` says that a load is on which nobody reads.
 */
export type RigCommand = 'hold' | 'resume' | 'go' | 'count-down' | 'reached' | 'stop' | 'abort' | 'broke'

/** Where a run stands on its ladder; plain data, so that it survives its process. */
export interface LadderState {
  t: number
  rung: number
  phase: RigPhase
  /** Seconds in this phase. */
  elapsed: number
  end: RigEnd | null
  /** Set-points now, and those that the phase began from: the commanded one, then those of further actuators. */
  set: number[]
  from: number[]
  /** Phase to go back to after a pause. */
  paused: { phase: RigPhase; elapsed: number } | null
  /** Somebody said go at a rung that waits for it. */
  going: boolean
  /** Somebody said that the load is on. */
  isReached: boolean
  /** Seconds of baseline that the cameras still want before it goes on. */
  countdown: number | null
  /** Seconds that unloading takes. */
  unload: number
}

export interface Ladder {
  rungs: readonly LadderRung[]
  /** `set`: a rig that follows set-points in time. `read`: people or another system put the load on, and it is read. */
  by: 'set' | 'read'
}

const QUICK_UNLOAD = 4
/** What is recorded after unloading: as long as the first zero, at most so many seconds. */
const LONGEST_TAIL = 15
/** A rig that does not settle on its set-point holds all the same after this many seconds. */
const LONGEST_SETTLING = 5

export const startLadder = ({ rungs }: Ladder): LadderState => {
  const rest = [0, ...rungs[0]!.also.map(() => 0)]
  return {
    t: 0,
    rung: 0,
    phase: 'hold',
    elapsed: 0,
    end: null,
    set: rest,
    from: rest,
    paused: null,
    going: false,
    isReached: false,
    countdown: null,
    unload: QUICK_UNLOAD,
  }
}

const hasBroken = ({ end }: LadderState): boolean => end === 'article broke' || end === 'fixture gave way'

/** What a command makes of the state; commands that make no sense now change nothing. */
export function commandLadder<S extends LadderState>({ rungs }: Ladder, s: S, command: RigCommand, seconds = 10): S {
  if (s.phase === 'ended') return s
  if (s.phase === 'unloading' && command !== 'abort' && command !== 'reached' && command !== 'broke') return s
  switch (command) {
    // What broke first is how it ended, also where the load is then taken off in haste.
    case 'abort':
      return s.end === 'aborted'
        ? s
        : { ...s, ...begin(s, 'unloading'), end: hasBroken(s) ? s.end : 'aborted', unload: QUICK_UNLOAD }
    case 'broke':
      return { ...s, ...begin(s, 'ended'), end: 'article broke' }
    case 'stop':
      return { ...s, ...begin(s, 'unloading'), end: 'stopped', unload: Math.max(QUICK_UNLOAD, rungs[s.rung]!.ramp) }
    case 'hold':
      return s.phase === 'paused'
        ? s
        : { ...s, phase: 'paused', paused: { phase: s.phase, elapsed: s.elapsed }, countdown: null }
    case 'go':
      return s.phase === 'waiting' ? { ...s, going: true } : s
    case 'count-down':
      return s.phase === 'waiting' || s.phase === 'hold' ? { ...s, countdown: seconds } : s
    case 'reached':
      return s.phase === 'ramp' || s.phase === 'unloading' ? { ...s, isReached: true } : s
    case 'resume':
      return s.paused ? { ...s, ...s.paused, paused: null } : s
  }
}

/** What the load is to be: that of the rung, nothing on the way out. */
export const targetOf = ({ rungs }: Ladder, s: LadderState): number =>
  s.phase === 'unloading' || s.phase === 'ended' ? 0 : rungs[s.rung]!.target

/**
 * Moves the state on, in place.
 *
 * @param arrived  the load is where it is to be
 */
export function stepLadder(ladder: Ladder, s: LadderState, dt: number, arrived: boolean): void {
  s.t += dt
  if (s.phase === 'paused' || s.phase === 'ended') return
  s.elapsed += dt
  const rung = ladder.rungs[s.rung]!
  const due = (seconds: number) => s.elapsed >= seconds - dt / 2
  if (s.phase === 'ramp') {
    move(s, [rung.target, ...rung.also], rung.ramp)
    const there =
      ladder.by === 'read' ? arrived || s.isReached : due(rung.ramp) && (arrived || due(rung.ramp + LONGEST_SETTLING))
    if (there) Object.assign(s, begin(s, 'hold'))
  } else if (s.phase === 'unloading') {
    move(
      s,
      s.set.map(() => 0),
      s.unload,
    )
    const tail = Math.min(LONGEST_TAIL, ladder.rungs[0]!.hold)
    if (due(s.unload + tail) && (ladder.by === 'set' || arrived || s.isReached)) s.phase = 'ended'
  } else if (s.countdown !== null) {
    s.countdown -= dt
    if (s.countdown <= dt / 2) climb(ladder, s)
  } else if (s.phase === 'hold') {
    if (!due(rung.hold)) return
    if (rung.decision) Object.assign(s, begin(s, 'waiting'))
    else climb(ladder, s)
  } else if (s.going) climb(ladder, s)
}

/** The article or the fixture let go: everything comes down. */
export function breakOff(s: LadderState, end: RigEnd): void {
  s.end = end
  Object.assign(s, begin(s, 'unloading'), { unload: QUICK_UNLOAD })
}

function move(s: LadderState, to: readonly number[], seconds: number): void {
  const share = Math.min(1, s.elapsed / seconds)
  s.set = s.from.map((f, i) => f + (to[i]! - f) * share)
}

const begin = (s: LadderState, phase: RigPhase): Partial<LadderState> => ({
  phase,
  elapsed: 0,
  from: [...s.set],
  paused: null,
  going: false,
  isReached: false,
  countdown: null,
})

function climb({ rungs }: Ladder, s: LadderState): void {
  if (s.rung + 1 < rungs.length) {
    s.rung++
    Object.assign(s, begin(s, 'ramp'))
  } else {
    s.end = 'ladder done'
    s.phase = 'ended'
  }
}
