/* A slender cantilever that bends far: exact curvature, no stretch, loads that keep their direction. */

/** A load across the undeformed beam, N, at m along it from its root. */
interface Load {
  x: number
  force: number
}

export interface BentFar {
  /** At m along the beam: m across it and along it, rad, N·m, N across the beam as it then lies. */
  at(s: number): { deflection: number; along: number; angle: number; moment: number; shear: number }
}

const PIECES = 120
const MOST_TURNS = 400
const SAME = 1e-10
/** Of each new shape so much is taken; less where it swings to and fro. */
const [SHARE, LESS] = [0.7, 0.7]

/**
 * @param stiffness  EI at m along it, N·m²
 * @source Bisshopp & Drucker (1945), Large deflection of cantilever beams; here by iteration on the shape: each turn
 *   takes the moments of the loads where the last one put them
 * @returns null where it does not come to rest (loads far beyond what a beam of that stiffness carries)
 */
export function bendFar(length: number, stiffness: (s: number) => number, loads: readonly Load[]): BentFar | null {
  const ds = length / PIECES
  const ei = Array.from({ length: PIECES }, (_, i) => stiffness((i + 0.5) * ds))
  const angle = new Float64Array(PIECES + 1)
  const [along, across] = [new Float64Array(PIECES + 1), new Float64Array(PIECES + 1)]
  const place = () => {
    for (let i = 0; i < PIECES; i++) {
      const middle = (angle[i]! + angle[i + 1]!) / 2
      along[i + 1] = along[i]! + ds * Math.cos(middle)
      across[i + 1] = across[i]! + ds * Math.sin(middle)
    }
  }
  const between = (y: Float64Array, s: number): number => {
    const i = Math.min(PIECES - 1, Math.max(0, Math.floor(s / ds)))
    return y[i]! + ((s - i * ds) / ds) * (y[i + 1]! - y[i]!)
  }
  /** Of the loads beyond s, about where it now lies. */
  const momentAt = (s: number): number => {
    const here = between(along, s)
    return loads.reduce((m, l) => (l.x > s ? m + l.force * (between(along, l.x) - here) : m), 0)
  }
  place()
  let [share, before] = [SHARE, Infinity]
  for (let turn = 0; turn < MOST_TURNS; turn++) {
    let [next, change] = [0, 0]
    const turned = new Float64Array(PIECES + 1)
    for (let i = 0; i < PIECES; i++) {
      next += (momentAt((i + 0.5) * ds) / ei[i]!) * ds
      turned[i + 1] = next
    }
    for (let i = 1; i <= PIECES; i++) {
      const by = share * (turned[i]! - angle[i]!)
      angle[i] = angle[i]! + by
      change = Math.max(change, Math.abs(by))
    }
    place()
    if (!Number.isFinite(change)) return null
    if (change > before) share *= LESS
    before = change
    if (change < SAME)
      return {
        at: s => ({
          deflection: between(across, s),
          along: between(along, s),
          angle: between(angle, s),
          moment: momentAt(s),
          shear: loads.reduce((v, l) => (l.x > s ? v + l.force : v), 0) * Math.cos(between(angle, s)),
        }),
      }
  }
  return null
}
