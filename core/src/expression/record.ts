import { butterworth } from '../signal/butterworth'
import { filterZeroPhase, paddingOf } from '../signal/sections'
import { functionNamed } from './functions'
import { binaryKernel, callKernel, type Operand } from './kernels'
import { namesIn, parse, type Node } from './parse'
import { expressionError } from './tokens'

/** Short enough that a few of them stay near, long enough that the steps' own cost does not count. */
const BLOCK = 4096

/** One step over a block: writes `length` values for the samples from `at` on. */
type Step = (at: number, length: number) => void

interface Compiled {
  steps: Step[]
  result: Operand
}

/** What a derived channel is computed from. */
export interface RecordSource {
  channels: Readonly<Record<string, Float64Array>>
  /** s; needed by deriv, integ and lowpass. */
  interval: number
}

/**
 * Values of an expression over a whole record: compiled once to steps over blocks of samples, no code is generated.
 * `deriv`, `integ` and `lowpass` look along the record and are worked out for all of it first.
 *
 * @param text  “(vg1 + vg2)/2 − frame”
 * @returns  a new array; gaps stay gaps
 * @throws   HypometError `expression` with the position
 */
export function evaluateRecord(text: string, source: RecordSource): Float64Array {
  const tree = parse(text)
  const names = namesIn(tree)
  for (const name of names) if (!Object.hasOwn(source.channels, name)) throw expressionError(`There is no channel “${name}”`, text.indexOf(name))
  const length = names.reduce((n, name) => Math.min(n, source.channels[name]!.length), Infinity)
  if (!Number.isFinite(length)) throw expressionError('An expression reads at least one channel', 0)
  return fill(tree, source, length)
}

function fill(tree: Node, source: RecordSource, length: number): Float64Array {
  const { steps, result } = compile(tree, source, length)
  const out = new Float64Array(length)
  if (result.kind === 'constant') return out.fill(result.value)
  if (result.kind === 'channel') out.set(result.values.subarray(0, length))
  // The last step writes where the result is wanted.
  else Object.assign(result, { kind: 'channel', values: out })
  for (let at = 0; at < length; at += BLOCK) for (const step of steps) step(at, Math.min(BLOCK, length - at))
  return out
}

function compile(node: Node, source: RecordSource, length: number): Compiled {
  switch (node.kind) {
    case 'number': return { steps: [], result: { kind: 'constant', value: node.value } }
    case 'name': return node.name === 'pi' && !Object.hasOwn(source.channels, 'pi') ? { steps: [], result: { kind: 'constant', value: Math.PI } } : { steps: [], result: { kind: 'channel', values: source.channels[node.name]! } }
    case 'negate': return compile({ kind: 'binary', sign: '*', left: { kind: 'number', value: -1, at: node.at }, right: node.of, at: node.at }, source, length)
    case 'binary': {
      const [a, b] = [compile(node.left, source, length), compile(node.right, source, length)]
      return joined([a, b], ([x, y]) => binaryKernel(node.sign, x!, y!, BLOCK))
    }
    case 'call': return along(node, source, length) ?? ofCall(node, source, length)
  }
}

function joined(parts: Compiled[], kernel: (operands: Operand[]) => { result: Operand; step: Step | null }): Compiled {
  const { result, step } = kernel(parts.map(p => p.result))
  return { steps: [...parts.flatMap(p => p.steps), ...(step ? [step] : [])], result }
}

function ofCall(node: Extract<Node, { kind: 'call' }>, source: RecordSource, length: number): Compiled {
  const f = functionNamed(node.name)
  if (!f) throw expressionError(`There is no function “${node.name}”`, node.at)
  if (node.args.length < f.least || node.args.length > f.most) throw expressionError(`“${node.name}” takes ${f.least} ${f.least === 1 ? 'argument' : 'or more arguments'}`, node.at)
  return joined(node.args.map(a => compile(a, source, length)), operands => callKernel(node.name, f.of, operands, BLOCK))
}

/** Functions that need the whole record; null for all others. */
function along(node: Extract<Node, { kind: 'call' }>, source: RecordSource, length: number): Compiled | null {
  const wanted = { deriv: 1, integ: 1, lowpass: 2 }[node.name]
  if (wanted === undefined) return null
  if (node.args.length !== wanted) throw expressionError(`“${node.name}” takes ${wanted === 1 ? 'one channel' : 'a channel and a cutoff in Hz'}`, node.at)
  const x = fill(node.args[0]!, source, length)
  const values = node.name === 'deriv' ? derivativeOf(x, source.interval) : node.name === 'integ' ? integralOf(x, source.interval) : lowpassed(x, node, source)
  return { steps: [], result: { kind: 'channel', values } }
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

function lowpassed(x: Float64Array, node: Extract<Node, { kind: 'call' }>, { interval }: RecordSource): Float64Array {
  const cutoff = node.args[1]!
  if (cutoff.kind !== 'number') throw expressionError('A cutoff is a number in Hz', cutoff.at)
  const sampleRate = 1 / interval
  if (!(cutoff.value > 0 && cutoff.value < sampleRate / 2)) throw expressionError(`A cutoff lies between 0 and half the sample rate, ${sampleRate / 2} Hz`, cutoff.at)
  const sections = butterworth({ kind: 'low', order: 4, cutoff: cutoff.value, sampleRate })
  if (x.length <= paddingOf(sections)) throw expressionError('The record is too short to filter', node.at)
  return filterZeroPhase(sections, x)
}
