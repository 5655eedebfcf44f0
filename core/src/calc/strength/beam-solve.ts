/** All SI; loads and deflections positive the same way; a cantilever is fixed at x = 0. */
export interface Beam {
  support: 'cantilever' | 'simple'
  length: number
  /** Pieces from the start, each up to `to`. N·m² */
  bendingStiffness: { to: number; value: number }[]
  /** Linear between its ends, N/m. */
  distributed: { from: number; to: number; q0: number; q1: number }[]
  points: { x: number; force: number }[]
}

export interface BeamState {
  x: number
  shear: number
  moment: number
  slope: number
  deflection: number
  /** M/EI, 1/m; at a step of stiffness that of the piece that ends there. */
  curvature: number
}

export interface SolvedBeam {
  /** Cantilever: root shear. Simple: reaction at the start. */
  start: number
  /** Simple: reaction at the end. */
  end: number
  at(x: number): BeamState
  maxDeflection: number
  maxMoment: number
  /** Largest abs(M)/EI, the weaker side of a step taken. */
  maxCurvature: number
}

/**
 * Between two breaks load is linear and EI constant, so the moment is a cubic and the deflection a quintic in x − x0.
 */
interface Piece {
  x0: number
  x1: number
  EI: number
  shear: number[]
  moment: number[]
  slope: number[]
  deflection: number[]
}

export function solveBeam(beam: Beam): SolvedBeam {
  const { length: L, support } = beam
  const total = resultant(beam)
  const end = support === 'simple' ? total.moment / L : 0
  const start = total.force - end
  // Sagging for the simple beam; for the cantilever the moment of the loads beyond x, both bend the beam along the
  // load.
  const rootMoment = support === 'simple' ? 0 : total.moment
  const pieces = integrate(beam, start, rootMoment)
  if (support === 'simple') tilt(pieces, L)
  // At the far end everything has been passed, a point load there included.
  const at = (x: number) => stateAt(pieces, x, start - total.force)
  // Most callers ask of single places alone: the search for extremes waits until somebody wants them.
  let found: ReturnType<typeof extremes> | null = null
  const largest = () => (found ??= extremes(pieces))
  return {
    start,
    end,
    at,
    get maxDeflection() {
      return largest().maxDeflection
    },
    get maxMoment() {
      return largest().maxMoment
    },
    get maxCurvature() {
      return largest().maxCurvature
    },
  }
}

function resultant({ points, distributed }: Beam): { force: number; moment: number } {
  let [force, moment] = [0, 0]
  for (const { x, force: F } of points) {
    force += F
    moment += F * x
  }
  for (const { from, to, q0, q1 } of distributed) {
    const width = to - from
    const W = ((q0 + q1) / 2) * width
    force += W
    moment += W * from + ((q0 + 2 * q1) / 6) * width ** 2
  }
  return { force, moment }
}

function integrate(beam: Beam, start: number, rootMoment: number): Piece[] {
  const { length: L, support, points, distributed, bendingStiffness } = beam
  const breaks = [
    ...new Set([
      0,
      L,
      ...points.map(p => p.x),
      ...distributed.flatMap(d => [d.from, d.to]),
      ...bendingStiffness.map(p => p.to),
    ]),
  ]
    .filter(x => x >= 0 && x <= L)
    .sort((a, b) => a - b)
  const pieces: Piece[] = []
  // Cantilever: V falls by what has been passed and M' = −V. Simple: the same V, M' = V, w'' = −M/EI.
  const sense = support === 'simple' ? 1 : -1
  let [V, M, slope, deflection] = [start, rootMoment, 0, 0]
  for (let i = 0; i < breaks.length - 1; i++) {
    const [x0, x1] = [breaks[i]!, breaks[i + 1]!]
    V -= points.filter(p => p.x === x0).reduce((s, p) => s + p.force, 0)
    const EI = bendingStiffness.find(p => p.to > x0)!.value
    const { q, rate } = loadOn(distributed, x0, x1)
    const shear = [V, -q, -rate / 2]
    const moment = antiderivative(shear, M, sense)
    const piece: Piece = {
      x0,
      x1,
      EI,
      shear,
      moment,
      slope: antiderivative(moment, slope, -sense / EI),
      deflection: [],
    }
    piece.deflection = antiderivative(piece.slope, deflection, 1)
    pieces.push(piece)
    const h = x1 - x0
    ;[V, M, slope, deflection] = [
      evaluate(shear, h),
      evaluate(moment, h),
      evaluate(piece.slope, h),
      evaluate(piece.deflection, h),
    ]
  }
  return pieces
}

function loadOn(distributed: Beam['distributed'], x0: number, x1: number): { q: number; rate: number } {
  let [q, rate] = [0, 0]
  for (const d of distributed) {
    if (d.from > x0 || d.to < x1) continue
    const k = (d.q1 - d.q0) / (d.to - d.from)
    q += d.q0 + k * (x0 - d.from)
    rate += k
  }
  return { q, rate }
}

/** A simple beam starts with the slope that brings its far end to zero. */
function tilt(pieces: Piece[], L: number): void {
  const last = pieces.at(-1)!
  const theta = -evaluate(last.deflection, last.x1 - last.x0) / L
  for (const p of pieces) {
    p.slope[0]! += theta
    p.deflection[0]! += theta * p.x0
    p.deflection[1]! += theta
  }
}

function stateAt(pieces: Piece[], x: number, endShear: number): BeamState {
  const i = firstReaching(pieces, x)
  const ending = pieces[i] ?? pieces.at(-1)!
  // At a step the piece that begins there counts for what jumps.
  const starting = ending.x1 === x ? pieces[i + 1] : pieces[i]
  const h = x - ending.x0
  const moment = evaluate(ending.moment, h)
  const shear = starting ? evaluate(starting.shear, x - starting.x0) : endShear
  return {
    x,
    shear,
    moment,
    slope: evaluate(ending.slope, h),
    deflection: evaluate(ending.deflection, h),
    curvature: moment / ending.EI,
  }
}

/** Number of the first piece that ends at x or beyond. */
function firstReaching(pieces: readonly Piece[], x: number): number {
  let [low, high] = [0, pieces.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (pieces[middle]!.x1 >= x) high = middle
    else low = middle + 1
  }
  return low
}

function extremes(pieces: Piece[]): Pick<SolvedBeam, 'maxDeflection' | 'maxMoment' | 'maxCurvature'> {
  let [maxDeflection, maxMoment, maxCurvature] = [0, 0, 0]
  for (const p of pieces) {
    const h = p.x1 - p.x0
    for (const s of [0, h, ...signChanges(p.slope, h)])
      maxDeflection = Math.max(maxDeflection, Math.abs(evaluate(p.deflection, s)))
    for (const s of [0, h, ...signChanges(p.shear, h)]) {
      const M = Math.abs(evaluate(p.moment, s))
      maxMoment = Math.max(maxMoment, M)
      maxCurvature = Math.max(maxCurvature, M / p.EI)
    }
  }
  return { maxDeflection, maxMoment, maxCurvature }
}

function evaluate(c: number[], s: number): number {
  let sum = 0
  for (let i = c.length - 1; i >= 0; i--) sum = sum * s + c[i]!
  return sum
}

/** Coefficients of constant + factor · ∫ polynomial. */
const antiderivative = (c: number[], constant: number, factor: number): number[] => [
  constant,
  ...c.map((a, i) => (factor * a) / (i + 1)),
]

/** Roots inside (0, h): those that fall on one of 32 samples, and sign changes between them by bisection. */
function signChanges(c: number[], h: number): number[] {
  const roots: number[] = []
  const STEPS = 32
  for (let i = 0; i < STEPS; i++) {
    let [a, b] = [(h * i) / STEPS, (h * (i + 1)) / STEPS]
    const [atA, atB] = [evaluate(c, a), evaluate(c, b)]
    if (atA === 0) roots.push(a)
    if (atA * atB >= 0) continue
    const rises = atA < 0
    for (let k = 0; k < 60; k++) {
      const m = (a + b) / 2
      if (evaluate(c, m) < 0 === rises) a = m
      else b = m
    }
    roots.push((a + b) / 2)
  }
  return roots
}
