import { STANDARD_GRAVITY } from '../../quantity/units'

/* The way down of a mass under a canopy, from its carrier to the ground: a point in a wind by layers. */

export interface WindLayer {
  /** Lower end, m; it blows up to the next one. */
  altitude: number
  /** m/s, and where it comes from, rad from the north, clockwise. */
  speed: number
  from: number
}

/** A drag area that the canopy has from a time on. */
export interface DragStage {
  /** s from the exit. */
  at: number
  /** m² */
  dragArea: number
}

export interface Flight {
  /** m above the ground, m/s of the carrier over it, and its course, rad from the north. */
  height: number
  speed: number
  course: number
  /** kg */
  mass: number
  /** m² before the first stage. */
  loose: number
  stages: readonly DragStage[]
  wind: readonly WindLayer[]
}

/** How it opens a stage. */
export interface Opening {
  t: number
  height: number
  /** Of the air past it, m/s. */
  speed: number
  dynamicPressure: number
}

export interface Flown {
  /** s to the ground. */
  time: number
  east: number
  north: number
  /** Downward at the ground, m/s. */
  rate: number
  /** Of each stage; null where it lands before. */
  openings: (Opening | null)[]
  /** Fastest of the air past it, m/s. */
  fastest: number
  path: { t: number; height: number; east: number; north: number }[]
}

const SEA_LEVEL = 1.225
/** @source ISO 2533, troposphere: density over that at sea level, by the height in m */
export const densityAt = (height: number): number => SEA_LEVEL * Math.max(0.05, 1 - 2.25577e-5 * height) ** 4.25588

/** s; a canopy takes some tenths of a second to come to rest in the air. */
const STEP = 0.05
const LONGEST = 3600
/** s between two points of the path. */
const POINTS = 1

/**
 * Flies it down. Drag is along the air past it, by the drag area of the stage that it is in; a stage opens at once.
 *
 * @source equations of motion of a point with quadratic drag, fourth-order Runge–Kutta
 */
export function fly(f: Flight): Flown {
  const layers = [...f.wind].sort((a, b) => b.altitude - a.altitude)
  const windAt = (height: number): readonly [number, number] => {
    const layer = layers.find(l => l.altitude <= height) ?? layers.at(-1)
    return layer ? [-Math.sin(layer.from) * layer.speed, -Math.cos(layer.from) * layer.speed] : [0, 0]
  }
  const areaAt = (t: number): number => {
    let area = f.loose
    for (const s of f.stages) if (t >= s.at - 1e-9) area = s.dragArea
    return area
  }
  /** Height, east, north, then how fast each grows. */
  type State = readonly [number, number, number, number, number, number]
  const rateOf = ([h, , , vh, ve, vn]: State, area: number): State => {
    const [we, wn] = windAt(h)
    const [re, rn] = [ve - we, vn - wn]
    const k = (0.5 * densityAt(h) * area * Math.hypot(vh, re, rn)) / f.mass
    return [vh, ve, vn, -STANDARD_GRAVITY - k * vh, -k * re, -k * rn]
  }
  const plus = (a: State, b: State, dt: number): State => a.map((v, i) => v + dt * b[i]!) as unknown as State
  let state: State = [f.height, 0, 0, 0, f.speed * Math.sin(f.course), f.speed * Math.cos(f.course)]
  let t = 0
  let fastest = 0
  const openings: (Opening | null)[] = f.stages.map(() => null)
  const path = [{ t, height: f.height, east: 0, north: 0 }]
  const past = ([h, , , vh, ve, vn]: State): number => {
    const [we, wn] = windAt(h)
    return Math.hypot(vh, ve - we, vn - wn)
  }
  while (state[0] > 0 && t < LONGEST) {
    f.stages.forEach((s, i) => {
      if (openings[i] === null && t >= s.at - 1e-9) {
        const speed = past(state)
        openings[i] = { t, height: state[0], speed, dynamicPressure: 0.5 * densityAt(state[0]) * speed ** 2 }
      }
    })
    const next = f.stages.find(s => s.at > t + 1e-9)
    // A step ends where a stage opens.
    const dt = Math.min(STEP, next ? next.at - t : STEP)
    const area = areaAt(t)
    const k1 = rateOf(state, area)
    const k2 = rateOf(plus(state, k1, dt / 2), area)
    const k3 = rateOf(plus(state, k2, dt / 2), area)
    const k4 = rateOf(plus(state, k3, dt), area)
    const before = state
    state = before.map((v, i) => v + (dt / 6) * (k1[i]! + 2 * k2[i]! + 2 * k3[i]! + k4[i]!)) as unknown as State
    // The last step ends at the ground.
    const share = state[0] < 0 ? before[0] / (before[0] - state[0]) : 1
    if (share < 1) state = before.map((v, i) => v + share * (state[i]! - v)) as unknown as State
    t += share * dt
    fastest = Math.max(fastest, past(state))
    if (share < 1 || t - path.at(-1)!.t >= POINTS)
      path.push({ t, height: Math.max(0, state[0]), east: state[1], north: state[2] })
    if (share < 1) break
  }
  return { time: t, east: state[1], north: state[2], rate: -state[3], openings, fastest, path }
}
