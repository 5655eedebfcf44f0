import { HypometError } from '../error'
import { evaluator, type Evaluator } from '../expression/evaluate'
import { namesIn, parse, type Node } from '../expression/parse'
import { butterworth } from '../signal/butterworth'
import type { Section } from '../signal/sections'
import type { RigBlock } from './block'

/** What a slower channel read last counts for so many of its intervals, and for so many seconds at least. */
const [HELD_FOR, HELD_AT_LEAST] = [3, 1]
/** As a record's own low-pass: `evaluateRecord`. */
const ORDER = 4

/** A function that remembers what came before: fed sample by sample. */
type Along = (x: number, t: number) => number

interface Part {
  /** What goes into it. */
  of: Evaluator
  along: () => Along
  now: Along
}

interface Worked {
  role: string
  /** Roles that it reads, in the order of the evaluator's values; parts that look along the record after them. */
  names: string[]
  of: Evaluator
  parts: Part[]
}

/**
 * Works out a plan's derived channels while a run goes on. They have the clock of the fastest channel that they read;
 * a slower one counts as it was last read, until it is too old. Live, `deriv` looks back by one sample, `integ` sums
 * from the beginning and `lowpass` lags, where a record has central differences and no lag.
 */
export class LiveDerived {
  private readonly worked: Worked[]
  private readonly newest = new Map<string, { t: number; value: number }>()

  /**
   * @param channels  of a plan; those whose expression cannot be worked out are left out: the plan says why
   * @param rates  Hz by role, of all that is read
   */
  constructor(
    channels: readonly { role: string; expression?: string | undefined }[],
    private readonly rates: Readonly<Record<string, number>>,
  ) {
    this.worked = channels.flatMap(({ role, expression }) => {
      try {
        return expression === undefined ? [] : [this.prepared(role, expression)]
      } catch (e) {
        if (e instanceof HypometError) return []
        throw e
      }
    })
  }

  /** The block, and with it what can be worked out at its times. What it brings itself stays as it is. */
  feed(block: RigBlock): RigBlock {
    const { t, channels } = block
    if (t.length === 0 || this.worked.length === 0) return block
    const made = this.worked.flatMap(w => {
      if (Object.hasOwn(channels, w.role) || !this.isClockOf(w, channels)) return []
      return [[w.role, this.valuesOf(w, block)] as const]
    })
    for (const [role, values] of Object.entries(channels)) this.remember(role, t, values)
    return made.length === 0 ? block : { ...block, channels: { ...channels, ...Object.fromEntries(made) } }
  }

  /** What a channel comes to where each of its channels reads so much; null where it is none, or looks along. */
  at(role: string, readings: Readonly<Record<string, number>>): number | null {
    const w = this.worked.find(x => x.role === role)
    if (!w || w.parts.length > 0) return null
    const value = w.of(w.names.map(n => readings[n] ?? NaN))
    return Number.isFinite(value) ? value : null
  }

  private prepared(role: string, expression: string): Worked {
    const names = namesIn(parse(expression))
    const missing = names.find(n => !(n in this.rates))
    if (missing !== undefined || names.length === 0)
      throw new HypometError('expression', `There is no channel “${missing ?? ''}”.`)
    const rate = Math.max(...names.map(n => this.rates[n]!))
    const parts: Part[] = []
    const tree = this.withParts(parse(expression), rate, names, parts)
    return { role, names, parts, of: evaluator(tree, [...names, ...parts.map((_, i) => partName(i))]) }
  }

  /** Each call that looks along the record becomes a name of its own; those inside it come before it. */
  private withParts(node: Node, rate: number, names: readonly string[], parts: Part[]): Node {
    const deeper = (n: Node): Node => this.withParts(n, rate, names, parts)
    switch (node.kind) {
      case 'number':
      case 'name':
        return node
      case 'negate':
        return { ...node, of: deeper(node.of) }
      case 'binary':
        return { ...node, left: deeper(node.left), right: deeper(node.right) }
      case 'call': {
        const make = alongOf(node, rate)
        if (!make) return { ...node, args: node.args.map(deeper) }
        const inner = deeper(node.args[0]!)
        const of = evaluator(inner, [...names, ...parts.map((_, i) => partName(i))])
        parts.push({ of, along: make, now: make() })
        return { kind: 'name', name: partName(parts.length - 1), at: node.at }
      }
    }
  }

  /** Whether a block brings the fastest of what a channel reads. */
  private isClockOf({ names }: Worked, channels: RigBlock['channels']): boolean {
    const fastest = Math.max(...names.map(n => this.rates[n]!))
    return names.some(n => Object.hasOwn(channels, n) && this.rates[n] === fastest)
  }

  private valuesOf({ names, of, parts }: Worked, { t, channels }: RigBlock): number[] {
    const columns = names.map(n => channels[n])
    const values = new Float64Array(names.length + parts.length)
    return t.map((now, k) => {
      let isOver = false
      let isWhole = true
      for (let i = 0; i < names.length; i++) {
        const v = columns[i]?.[k] ?? this.heldOf(names[i]!, now)
        values[i] = v
        isOver ||= v === Infinity || v === -Infinity
        isWhole &&= v === v
      }
      if (isOver || !isWhole) {
        // What looks along the record begins anew after a gap.
        for (const p of parts) p.now = p.along()
        // Nobody knows how large: that is beyond what can be read as well.
        return isOver ? Infinity : NaN
      }
      parts.forEach((p, i) => (values[names.length + i] = p.now(p.of(values), now)))
      const value = of(values)
      return Number.isFinite(value) ? value : NaN
    })
  }

  /** What a channel of another rate read last; none where that is too long ago. */
  private heldOf(role: string, now: number): number {
    const last = this.newest.get(role)
    if (!last) return NaN
    return now - last.t <= Math.max(HELD_AT_LEAST, HELD_FOR / this.rates[role]!) ? last.value : NaN
  }

  private remember(role: string, t: readonly number[], values: readonly number[]): void {
    const k = values.findLastIndex(v => v === v)
    if (k >= 0) this.newest.set(role, { t: t[k]!, value: values[k]! })
  }
}

/** No name that anybody can write. */
const partName = (i: number): string => ` ${i}`

/** Functions that remember; null for all others. @throws HypometError `expression` */
function alongOf(node: Extract<Node, { kind: 'call' }>, rate: number): (() => Along) | null {
  switch (node.name) {
    case 'deriv':
      return derivative
    case 'integ':
      return integral
    case 'lowpass': {
      const cutoff = node.args[1]
      if (cutoff?.kind !== 'number') throw new HypometError('expression', 'A cutoff is a number in Hz.')
      const sections = butterworth({ kind: 'low', order: ORDER, cutoff: cutoff.value, sampleRate: rate })
      return () => lowpass(sections)
    }
    default:
      return null
  }
}

function derivative(): Along {
  let [x0, t0] = [NaN, NaN]
  return (x, t) => {
    const slope = (x - x0) / (t - t0)
    ;[x0, t0] = [x, t]
    return slope
  }
}

function integral(): Along {
  let [sum, x0, t0] = [0, NaN, NaN]
  return (x, t) => {
    if (t0 === t0) sum += ((x + x0) / 2) * (t - t0)
    ;[x0, t0] = [x, t]
    return sum
  }
}

/** Begun in the steady state of the first sample; transposed direct form II. */
function lowpass(sections: readonly Section[]): Along {
  let memory: [number, number][] | null = null
  return x => {
    memory ??= sections.map((s): [number, number] => [(1 - s.b0) * x, (s.b2 - s.a2) * x])
    return sections.reduce((v, s, i) => {
      const m = memory![i]!
      const y = s.b0 * v + m[0]
      m[0] = s.b1 * v - s.a1 * y + m[1]
      m[1] = s.b2 * v - s.a2 * y
      return y
    }, x)
  }
}
