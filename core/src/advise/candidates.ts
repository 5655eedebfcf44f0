import { decide, lacksUncertainty, type Decision, type DecisionRule } from '../judge/decide'
import type { Result } from '../method/reduction'
import type { Kind } from '../quantity/index'
import { sizesAround } from './made'
import { extrapolated, predictionsAt, type Dimension, type Sizes } from './model'
import { bindingOf, keepsAll, keptBy, type AdviceLimit, type Asked } from './needs'

/** A way of changing an article: sizes that go together by one scale, and others that are set. */
export interface Path {
  id: string
  title: string
  /** Dimensions that grow or shrink together. */
  free: readonly string[]
  /** A dimension that is tried at each size it can be had in, the free ones to suit. */
  tried?: string
  /** What is set beside them: the strength of another material. */
  set?: Sizes
  touches?: readonly string[]
  leadTimeDays?: number
  cost?: number | null
  evidence?: readonly string[]
}

export interface Change {
  property: string
  label: string
  kind: Kind
  from: number
  to: number
}

export interface Candidate {
  id: string
  title: string
  sizes: Sizes
  changes: Change[]
  /** kg in all, and more than the tested revision; null where its mass is not known. */
  mass: number | null
  massChange: number | null
  leadTimeDays: number
  /** Null where nobody has said what one of its changes costs. */
  cost: number | null
  predictions: Record<string, Result>
  decisions: { limitId: number; decision: Decision }[]
  /** The limit that lies nearest. */
  binding: AdviceLimit | null
  /** Its room, as a share of the limit; below zero where it is broken. */
  room: number | null
  touches: string[]
  /** Results that get worse though no limit guards them. */
  worse: { quantity: string; from: number; to: number }[]
  /** What speaks for its numbers. */
  evidence: string[]
  /** Sizes beyond what their laws were seen to hold for. */
  extrapolated: string[]
  /** Which test would show it. */
  verify: string
}

/** Scales looked at along a way, and halvings towards an edge between two of them: to a hundred thousandth. */
const SCAN = 32
const HALVINGS = 13
/** How many sizes are looked at on either side of an exact one, until one is had that meets every limit. */
const AROUND = [1, 2, 6]
const MOST_TRIED = 10

/**
 * Sizes along a path that keep every limit, rounded to what can be had; null where there are none. Where a limit is
 * short it is
 * the smallest change that mends it, for what no limit guards goes with every change; where all are met, or the
 * material is
 * another, it is the lightest within the sizes that the laws were seen to hold for. Limits may close in from both
 * sides: the
 * scale is looked through, and each limit's edges are halved to. Of two sizes together the lightest pair is taken.
 */
export function sizesAlong(path: Path, asked: Asked): Sizes | null {
  const goal: Goal = path.set !== undefined || keepsAll(asked, {}) ? 'lightest' : 'nearest'
  if (path.tried === undefined) return alongOne(path, asked, goal)
  const tried = asked.model.dimensions.find(d => d.key === path.tried)!
  const found = triedSizes(tried).flatMap(size => {
    const sizes = alongOne({ ...path, set: { ...path.set, [tried.key]: size } }, asked, 'lightest')
    return sizes ? [sizes] : []
  })
  return best(found, asked, 'lightest')
}

type Goal = 'lightest' | 'nearest'

/** Only what its laws were seen to hold for is tried. */
function triedSizes(d: Dimension): number[] {
  const [low, high] = [Math.max(d.reach[0], d.known[0]), Math.min(d.reach[1], d.known[1])]
  if (d.sizes) return d.sizes.filter(s => s >= low && s <= high)
  const step = Math.max(d.step ?? 0, (Math.min(high, Math.max(1.5 * d.value, low)) - low) / MOST_TRIED)
  const first = d.step ? Math.ceil(low / d.step - 1e-9) * d.step : low
  const rounded = d.step ? Math.max(1, Math.round(step / d.step)) * d.step : step
  return Array.from({ length: MOST_TRIED }, (_, i) => first + i * rounded).filter(s => s <= high)
}

/** The lightest of several, or the one that changes least; where they are alike in that, the other way. */
function best(all: readonly Sizes[], { model }: Asked, goal: Goal): Sizes | null {
  const effort = (sizes: Sizes) =>
    model.dimensions.reduce((sum, d) => sum + Math.abs(Math.log((sizes[d.key] ?? d.value) / d.value)), 0)
  const cost = (sizes: Sizes): number[] =>
    (c => (goal === 'lightest' ? c : c.toReversed()))([model.massChange(sizes) ?? 0, effort(sizes)])
  return all.reduce<Sizes | null>((first, sizes) => {
    if (!first) return sizes
    const [a, b] = [cost(sizes), cost(first)] as [[number, number], [number, number]]
    return a[0] < b[0] - 1e-12 || (Math.abs(a[0] - b[0]) <= 1e-12 && a[1] < b[1]) ? sizes : first
  }, null)
}

/** With one scale for all that is free. */
function alongOne(path: Path, asked: Asked, goal: Goal): Sizes | null {
  const free = asked.model.dimensions.filter(d => path.free.includes(d.key))
  const at = (scale: number): Sizes => ({ ...path.set, ...Object.fromEntries(free.map(d => [d.key, d.value * scale])) })
  if (free.length === 0) return keepsAll(asked, at(1)) ? at(1) : null
  // What takes mass out stays within what was seen; what must get better may go beyond, with a wider band.
  const lowest = (d: Dimension) => (goal === 'lightest' ? Math.max(d.reach[0], d.known[0]) : d.reach[0])
  const low = Math.max(...free.map(d => lowest(d) / d.value))
  const high = Math.min(...free.map(d => d.reach[1] / d.value))
  if (!(high >= low)) return null
  const scales = Array.from({ length: SCAN + 1 }, (_, i) => low * (high / low) ** (i / SCAN))
  const keeps = scales.map(s => keptBy(asked, at(s)))
  // The edge of every limit for itself: between two of them the window may be narrower than a step of the scan.
  const found = keeps[0]!
    .flatMap((_, k) =>
      scales.slice(1).flatMap((s, i) => {
        const [before, after] = [keeps[i]![k], keeps[i + 1]![k]]
        if (before === after) return []
        return [edge(before ? s : scales[i]!, before ? scales[i]! : s, x => keptBy(asked, at(x))[k]!)]
      }),
    )
    .concat(low, high)
    .filter(s => keepsAll(asked, at(s)))
  // The article as it is may already do, and then nothing need change.
  if (low <= 1 && high >= 1 && keepsAll(asked, at(1))) found.push(1)
  const exact = best(found.map(at), asked, goal)
  return exact && rounded(exact, free, asked, goal)
}

/** Where keeping begins, from a scale that does not keep to one that does. */
function edge(out: number, inside: number, keeps: (scale: number) => boolean): number {
  for (let i = 0; i < HALVINGS; i++) {
    const middle = Math.sqrt(out * inside)
    if (keeps(middle)) inside = middle
    else out = middle
  }
  return inside
}

/** To sizes that can be had: the best combination near the exact one that still keeps every limit. */
function rounded(exact: Sizes, free: readonly Dimension[], asked: Asked, goal: Goal): Sizes | null {
  for (const count of AROUND) {
    const options = free.map(d =>
      sizesAround(d, exact[d.key]!, count).filter(s => s >= d.reach[0] * (1 - 1e-9) && s <= d.reach[1] * (1 + 1e-9)),
    )
    const combinations = options.reduce<Record<string, number>[]>(
      (all, sizes, i) => all.flatMap(c => sizes.map(s => ({ ...c, [free[i]!.key]: s }))),
      [{}],
    )
    const keeping = combinations.map(c => ({ ...exact, ...c })).filter(c => keepsAll(asked, c))
    if (keeping.length > 0) return best(keeping, asked, goal)
  }
  return null
}

const SAME = 1e-9
/** A result that moves by less than this is none that the change bears on. */
const BEARS = 0.005

/** Sizes as a candidate, with all that follows from them. */
export function candidateAt(
  path: Pick<Path, 'id' | 'title' | 'touches' | 'leadTimeDays' | 'cost' | 'evidence'>,
  sizes: Sizes,
  asked: Asked,
  mass: number | null,
): Candidate {
  const { model, results, limits, rule } = asked
  const predictions = predictionsAt(model, results, sizes)
  const changes = Object.entries(model.properties).flatMap(([property, { label, kind, value }]) =>
    sizes[property] !== undefined && Math.abs(sizes[property] / value - 1) > SAME
      ? [{ property, label, kind, from: value, to: sizes[property] }]
      : [],
  )
  const changed = model.dimensions.filter(d => changes.some(c => c.property === d.key))
  const massChange = model.massChange(sizes)
  const costs = [...changed.map(d => d.cost), ...(path.cost === undefined ? [] : [path.cost])]
  const nearest = bindingOf(asked, sizes)
  return {
    id: path.id,
    title: path.title,
    sizes: Object.fromEntries(changes.map(c => [c.property, c.to])),
    changes,
    mass: mass === null || massChange === null ? null : mass + massChange,
    massChange,
    leadTimeDays: Math.max(0, path.leadTimeDays ?? 0, ...changed.map(d => d.leadTimeDays)),
    cost: costs.some(c => c === null) ? null : costs.reduce<number>((sum, c) => sum + c!, 0),
    predictions,
    decisions: limits.flatMap(l =>
      predictions[l.quantity] ? [{ limitId: l.id, decision: decidePredicted(predictions[l.quantity]!, l, rule) }] : [],
    ),
    binding: nearest?.limit ?? null,
    room: nearest?.room ?? null,
    worse: worseBy(predictions, asked),
    touches: [...new Set([...changed.flatMap(d => d.touches), ...(path.touches ?? [])])],
    evidence: [
      ...model.laws
        .filter(l => changed.some(d => d.key === l.size) && results[l.quantity]?.value != null)
        .map(l => sentenceOf(l, asked)),
      ...(path.evidence ?? []),
    ],
    extrapolated: extrapolated(model, sizes),
    verify: verifyBy(sizes, asked),
  }
}

const NOTICED = 0.05

function worseBy(predictions: Record<string, Result>, { results, limits, declared }: Asked): Candidate['worse'] {
  return Object.entries(predictions).flatMap(([quantity, p]) => {
    const [from, side] = [results[quantity]?.value, declared[quantity]?.limited]
    if (from == null || p.value === null || from === 0 || !side || limits.some(l => l.quantity === quantity)) return []
    const change = p.value / from - 1
    return (side === 'atLeast' ? -change : change) > NOTICED ? [{ quantity, from, to: p.value }] : []
  })
}

function sentenceOf(l: Asked['model']['laws'][number], { model, declared }: Asked): string {
  const size = model.properties[l.size]!.label.toLowerCase()
  return (
    `${declared[l.quantity]?.label ?? l.quantity} goes with ${size} to the power ${l.exponent.toFixed(2)} ± ` +
    `${(2 * l.u).toFixed(2)}: ${l.because}.`
  )
}

/** Which of the limits a test of the change must answer again. */
function verifyBy(sizes: Sizes, { model, limits }: Asked): string {
  const scaled = model.at(sizes)
  const touched = limits.filter(
    l => scaled[l.quantity] === undefined || Math.abs(scaled[l.quantity]!.ratio - 1) > BEARS,
  )
  const rest = limits.filter(l => !touched.includes(l))
  const names = (ls: readonly AdviceLimit[]) => ls.map(l => l.name).join(', ')
  if (touched.length === 0) return 'It moves none of the limits: nothing has to be shown again.'
  return `The same test again, for ${names(touched)}.${rest.length > 0 ? ` It hardly bears on ${names(rest)}.` : ''}`
}

/** A prediction by its band; one of what nobody knows the uncertainty of by its value, for it is no verdict yet. */
const decidePredicted = (predicted: Result, l: AdviceLimit, rule: DecisionRule): Decision =>
  decide(predicted, l.comparator, l.value, lacksUncertainty(predicted) ? 'simple' : rule)
