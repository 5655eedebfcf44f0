import { termColumn, termsOf } from './factorial'

type Levels = Readonly<Record<string, -1 | 1>>

/** Adds to each term's information so that a design of few runs has a determinant at all. */
const RIDGE = 1e-3

/**
 * The runs that tell most of the main effects and pairs apart, one after the other, from all corners of a two-level
 * design:
 * each the one that raises the determinant of the information most, those already made counted in.
 *
 * @param factors  two to seven
 * @returns  levels of each new run
 * @source Dykstra (1971), The augmentation of experimental data to maximize |X′X|
 */
export function nextTrials(factors: readonly string[], made: readonly Levels[], count: number): Levels[] {
  const terms = termsOf(factors)
  const row = (levels: Levels) => [1, ...terms.map(t => termColumn(t, levels))]
  const corners = Array.from(
    { length: 2 ** factors.length },
    (_, c) => Object.fromEntries(factors.map((f, i) => [f, (c >> i) & 1 ? 1 : -1])) as Levels,
  )
  // By the inverse, updated run by run: the determinant grows by 1 + x′A⁻¹x.
  const inverse = Array.from({ length: terms.length + 1 }, (_, i) =>
    Float64Array.from({ length: terms.length + 1 }, (_, j) => (i === j ? 1 / RIDGE : 0)),
  )
  const times = (x: readonly number[]) => inverse.map(r => r.reduce((s, v, j) => s + v * x[j]!, 0))
  const add = (x: readonly number[]) => {
    const v = times(x)
    const scale = 1 + x.reduce((s, a, i) => s + a * v[i]!, 0)
    for (let i = 0; i < v.length; i++) for (let j = 0; j < v.length; j++) inverse[i]![j]! -= (v[i]! * v[j]!) / scale
  }
  for (const levels of made) add(row(levels))
  return Array.from({ length: count }, () => {
    const best = corners
      .map(levels => ({ levels, x: row(levels) }))
      .map(c => ({ ...c, gain: times(c.x).reduce((s, v, i) => s + v * c.x[i]!, 0) }))
      .reduce((a, b) => (b.gain > a.gain * (1 + 1e-9) ? b : a))
    add(best.x)
    return best.levels
  })
}
