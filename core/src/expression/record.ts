import { butterworth } from '../signal/butterworth'
import { filterZeroPhase, paddingOf } from '../signal/sections'
import { movedAlong, type Path } from '../geometry/movedAlong'
import { point } from '../geometry/point'
import { functionNamed } from './functions'
import { namesIn, signedNumber, parse, type Node } from './parse'
import { BlockProgram, type Operand } from './program'
import { expressionError } from './tokens'

/** What a derived channel is computed from. */
export interface RecordSource {
  channels: Readonly<Record<string, Float64Array>>
  /** s; needed by moved. */
  t?: Float64Array
  /** s; needed by deriv, integ and lowpass. */
  interval: number
}

/**
 * Values of an expression over a whole record: compiled once to steps over blocks of samples, no code is generated.
 * `deriv`, `integ` and `lowpass` look along the record and are worked out for all of it first.
 *
 * @param text  “(vg1 + vg2)/2 − frame”
 * @returns  a new array; a gap wherever a channel that is read has one
 * @throws   HypometError `expression` with the position
 */
export function evaluateRecord(text: string, source: RecordSource): Float64Array {
  const tree = parse(text)
  const names = namesIn(tree)
  for (const name of names)
    if (!Object.hasOwn(source.channels, name))
      throw expressionError(`There is no channel “${name}”`, text.indexOf(name))
  const length = names.reduce((n, name) => Math.min(n, source.channels[name]!.length), Infinity)
  if (!Number.isFinite(length)) throw expressionError('An expression reads at least one channel', 0)
  return fill(tree, source, length)
}

function fill(tree: Node, source: RecordSource, length: number): Float64Array {
  const program = new BlockProgram()
  const values = program.run(compile(tree, program, source, length), length)
  // A gap in anything that is read is one of the result, also in 0·a and a⁰; a fixture is told by what is seen of it.
  for (const name of namesOutside(tree)) {
    const channel = source.channels[name]!
    for (let i = 0; i < length; i++) if (channel[i] !== channel[i]) values[i] = NaN
  }
  return values
}

function compile(node: Node, program: BlockProgram, source: RecordSource, length: number): Operand {
  const of = (n: Node) => compile(n, program, source, length)
  switch (node.kind) {
    case 'number':
      return { kind: 'constant', value: node.value }
    case 'name':
      return node.name === 'pi' && !Object.hasOwn(source.channels, 'pi')
        ? { kind: 'constant', value: Math.PI }
        : program.channel(source.channels[node.name]!)
    case 'negate':
      return program.binary('*', { kind: 'constant', value: -1 }, of(node.of))
    case 'binary':
      return program.binary(node.sign, of(node.left), of(node.right))
    case 'call': {
      const values = along(node, source, length)
      return values ? program.channel(values) : ofCall(node, program, node.args.map(of))
    }
  }
}

function ofCall(node: Call, program: BlockProgram, args: Operand[]): Operand {
  const f = functionNamed(node.name)
  if (!f) throw expressionError(`There is no function “${node.name}”`, node.at)
  if (args.length < f.least || args.length > f.most)
    throw expressionError(
      `“${node.name}” takes ${f.least} ${f.least === 1 ? 'argument' : 'or more arguments'}`,
      node.at,
    )
  if (node.name === 'diff') return program.binary('-', args[0]!, args[1]!)
  return program.call(f.of, args, f.single)
}

type Call = Extract<Node, { kind: 'call' }>

/** Names that are read by anything but `moved`, which passes over what it does not need. */
function namesOutside(node: Node): string[] {
  switch (node.kind) {
    case 'number':
      return []
    case 'name':
      return namesIn(node)
    case 'negate':
      return namesOutside(node.of)
    case 'binary':
      return [...namesOutside(node.left), ...namesOutside(node.right)]
    case 'call':
      return node.name === 'moved' ? [] : node.args.flatMap(namesOutside)
  }
}

/**
 * `moved(rest, x, y, z, along x, along y, along z, fixture's x, y, z …)`: how far a place went along a direction since
 * the rest at the beginning, s, the rigid motion of a fixture's places taken off.
 */
function movedFrom(node: Call, source: RecordSource, length: number): Float64Array {
  const [duration, ...others] = node.args
  if (others.length < 6 || others.length % 3 !== 0 || (others.length > 6 && others.length < 15))
    throw expressionError(
      '“moved” takes the time at rest, a place (x, y, z), a direction (x, y, z), and none or three or more places of ' +
        'what holds it',
      node.at,
    )
  const number = (n: Node): number => {
    const value = signedNumber(n)
    if (value === null) throw expressionError('The time at rest and the direction are numbers', n.at)
    return value
  }
  const direction = point(k => number(others[3 + k]!))
  if (Math.hypot(...direction) === 0) throw expressionError('A direction has a length', others[3]!.at)
  const rest = number(duration!)
  const { t } = source
  if (!t || !(rest > 0)) throw expressionError('The time at rest is longer than nothing', duration!.at)
  const path = (from: number): Path => [0, 1, 2].map(k => fill(others[from + k]!, source, length)) as unknown as Path
  const holders = Array.from({ length: others.length / 3 - 2 }, (_, h) => path(6 + 3 * h))
  const moved = movedAlong(path(0), { t: t.subarray(0, length), until: rest, direction, holders })
  if (!moved) throw expressionError('These places tell no motion of a fixture: they lie on one line', node.at)
  return moved
}

/** Functions that need the whole record; null for all others. */
function along(node: Call, source: RecordSource, length: number): Float64Array | null {
  if (node.name === 'moved') return movedFrom(node, source, length)
  const wanted = { deriv: 1, integ: 1, lowpass: 2 }[node.name]
  if (wanted === undefined) return null
  if (node.args.length !== wanted)
    throw expressionError(
      `“${node.name}” takes ${wanted === 1 ? 'one channel' : 'a channel and a cutoff in Hz'}`,
      node.at,
    )
  const x = fill(node.args[0]!, source, length)
  if (node.name === 'lowpass') return lowpassed(x, node, source)
  const work = node.name === 'deriv' ? derivativeOf : integralOf
  return piecewise(x, piece => work(piece, source.interval))
}

/** Longest gap that is bridged, samples. */
const BRIDGED = 3

/**
 * Works on each piece between long gaps by itself; shorter gaps are bridged straight for the work and stay gaps.
 *
 * @param work  of a piece without gaps; null where the piece is too short for it
 */
function piecewise(x: Float64Array, work: (piece: Float64Array) => Float64Array | null): Float64Array {
  const result = new Float64Array(x.length).fill(NaN)
  let from = 0
  while (from < x.length) {
    if (Number.isNaN(x[from]!)) {
      from++
      continue
    }
    let last = from
    for (let i = from + 1; i < x.length && i - last <= BRIDGED + 1; i++) if (!Number.isNaN(x[i]!)) last = i
    const done = work(bridged(x.slice(from, last + 1)))
    if (done) for (let i = from; i <= last; i++) if (!Number.isNaN(x[i]!)) result[i] = done[i - from]!
    from = last + 1
  }
  return result
}

/** Gaps of a piece that begins and ends with a number, filled straight. */
function bridged(piece: Float64Array): Float64Array {
  let before = 0
  for (let i = 1; i < piece.length; i++) {
    if (Number.isNaN(piece[i]!)) continue
    for (let j = before + 1; j < i; j++)
      piece[j] = piece[before]! + ((piece[i]! - piece[before]!) * (j - before)) / (i - before)
    before = i
  }
  return piece
}

/** Central differences, one-sided at the ends. */
function derivativeOf(x: Float64Array, interval: number): Float64Array {
  const n = x.length
  if (n < 2) return new Float64Array(n).fill(NaN)
  const d = new Float64Array(n)
  for (let i = 1; i < n - 1; i++) d[i] = (x[i + 1]! - x[i - 1]!) / (2 * interval)
  d[0] = (x[1]! - x[0]!) / interval
  d[n - 1] = (x[n - 1]! - x[n - 2]!) / interval
  return d
}

/** Trapezoids from 0. */
function integralOf(x: Float64Array, interval: number): Float64Array {
  const sum = new Float64Array(x.length)
  for (let i = 1; i < x.length; i++) sum[i] = sum[i - 1]! + ((x[i]! + x[i - 1]!) / 2) * interval
  return sum
}

function lowpassed(x: Float64Array, node: Call, { interval }: RecordSource): Float64Array {
  const cutoff = node.args[1]!
  if (cutoff.kind !== 'number') throw expressionError('A cutoff is a number in Hz', cutoff.at)
  const sampleRate = 1 / interval
  if (!(cutoff.value > 0 && cutoff.value < sampleRate / 2))
    throw expressionError(`A cutoff lies between 0 and half the sample rate, ${sampleRate / 2} Hz`, cutoff.at)
  const sections = butterworth({ kind: 'low', order: 4, cutoff: cutoff.value, sampleRate })
  return piecewise(x, piece => (piece.length <= paddingOf(sections) ? null : filterZeroPhase(sections, piece)))
}
