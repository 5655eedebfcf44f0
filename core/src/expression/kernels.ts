/** Where a value comes from: one number, a whole channel, or a block that an earlier step filled. */
export type Operand = { kind: 'constant'; value: number } | { kind: 'channel'; values: Float64Array } | { kind: 'block'; values: Float64Array }

type Step = (at: number, length: number) => void

interface Kernel {
  result: Operand
  step: Step | null
}

type Sign = '+' | '-' | '*' | '/' | '^'

const OPERATIONS: Record<Sign, (a: number, b: number) => number> = { '+': (a, b) => a + b, '-': (a, b) => a - b, '*': (a, b) => a * b, '/': (a, b) => a / b, '^': (a, b) => a ** b }

/**
 * A step for one operation. A block is overwritten by its own result, so that few of them are alive; whoever needs the
 * result elsewhere may turn its operand into a channel before the first step runs.
 */
export function binaryKernel(sign: Sign, a: Operand, b: Operand, block: number): Kernel {
  if (a.kind === 'constant' && b.kind === 'constant') return { result: { kind: 'constant', value: OPERATIONS[sign](a.value, b.value) }, step: null }
  const out = a.kind === 'block' ? a.values : b.kind === 'block' ? b.values : new Float64Array(block)
  const result: Values = { kind: 'block', values: out }
  if (b.kind === 'constant' && a.kind !== 'constant') {
    const loop = WITH_CONSTANT[sign]
    return { result, step: (at, n) => loop(result.values, offsetOf(result, at), a.values, offsetOf(a, at), b.value, n) }
  }
  if (a.kind === 'constant' && b.kind !== 'constant') {
    const loop = FROM_CONSTANT[sign]
    return { result, step: (at, n) => loop(result.values, offsetOf(result, at), b.values, offsetOf(b, at), a.value, n) }
  }
  const [loop, x, y] = [OF_TWO[sign], a as Values, b as Values]
  return { result, step: (at, n) => loop(result.values, offsetOf(result, at), x.values, offsetOf(x, at), y.values, offsetOf(y, at), n) }
}

type Values = Exclude<Operand, { kind: 'constant' }>

const offsetOf = (o: Values, at: number): number => (o.kind === 'channel' ? at : 0)

/** A loop over a block, on plain arguments: written once each, so that the engine compiles each once. */
type ConstantLoop = (out: Float64Array, to: number, x: Float64Array, at: number, c: number, n: number) => void
type PairLoop = (out: Float64Array, to: number, x: Float64Array, at: number, y: Float64Array, from: number, n: number) => void

const WITH_CONSTANT: Record<Sign, ConstantLoop> = {
  '+': (out, to, x, at, c, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! + c },
  '-': (out, to, x, at, c, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! - c },
  '*': (out, to, x, at, c, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! * c },
  // A division stays a division: a reciprocal would change the last digit.
  '/': (out, to, x, at, c, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! / c },
  '^': (out, to, x, at, c, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! ** c },
}

const FROM_CONSTANT: Record<Sign, ConstantLoop> = {
  '+': WITH_CONSTANT['+'],
  '*': WITH_CONSTANT['*'],
  '-': (out, to, x, at, c, n) => { for (let i = 0; i < n; i++) out[to + i] = c - x[at + i]! },
  '/': (out, to, x, at, c, n) => { for (let i = 0; i < n; i++) out[to + i] = c / x[at + i]! },
  '^': (out, to, x, at, c, n) => { for (let i = 0; i < n; i++) out[to + i] = c ** x[at + i]! },
}

const OF_TWO: Record<Sign, PairLoop> = {
  '+': (out, to, x, at, y, from, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! + y[from + i]! },
  '-': (out, to, x, at, y, from, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! - y[from + i]! },
  '*': (out, to, x, at, y, from, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! * y[from + i]! },
  '/': (out, to, x, at, y, from, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! / y[from + i]! },
  '^': (out, to, x, at, y, from, n) => { for (let i = 0; i < n; i++) out[to + i] = x[at + i]! ** y[from + i]! },
}

/** A function of any number of operands; one and two have loops of their own. */
export function callKernel(name: string, of: (args: readonly number[]) => number, operands: Operand[], block: number): Kernel {
  if (operands.every(o => o.kind === 'constant')) return { result: { kind: 'constant', value: of(operands.map(o => (o as { value: number }).value)) }, step: null }
  if (name === 'diff') return binaryKernel('-', operands[0]!, operands[1]!, block)
  const result: Values = { kind: 'block', values: new Float64Array(block) }
  const single = SINGLE[name]
  const [first] = operands
  if (single && first && first.kind !== 'constant') {
    const x = first.values
    return { result, step: (at, n) => { for (let i = 0, j = offsetOf(first, at), k = offsetOf(result, at); i < n; i++, j++, k++) result.values[k] = single(x[j]!) } }
  }
  const args = operands.map(() => 0)
  return {
    result,
    step: (at, n) => {
      for (let i = 0; i < n; i++) {
        for (let k = 0; k < operands.length; k++) {
          const o = operands[k]!
          args[k] = o.kind === 'constant' ? o.value : o.values[offsetOf(o, at) + i]!
        }
        result.values[offsetOf(result, at) + i] = of(args)
      }
    },
  }
}

const SINGLE: Readonly<Record<string, ((x: number) => number) | undefined>> = { exp: Math.exp, log: Math.log, log10: Math.log10, sqrt: Math.sqrt, sin: Math.sin, cos: Math.cos, tan: Math.tan, atan: Math.atan, abs: Math.abs }
