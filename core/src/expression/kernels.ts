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
 * A step for one operation. Each case has a loop of its own, so that what is fixed stays out of it; blocks are
 * overwritten by their own result, so that few of them are alive.
 */
export function binaryKernel(sign: Sign, a: Operand, b: Operand, block: number): Kernel {
  if (a.kind === 'constant' && b.kind === 'constant') return { result: { kind: 'constant', value: OPERATIONS[sign](a.value, b.value) }, step: null }
  const out = a.kind === 'block' ? a.values : b.kind === 'block' ? b.values : new Float64Array(block)
  const result: Operand = { kind: 'block', values: out }
  if (b.kind === 'constant' && a.kind !== 'constant') return { result, step: withConstant(sign, a, b.value, out) }
  if (a.kind === 'constant' && b.kind !== 'constant') return { result, step: fromConstant(sign, a.value, b, out) }
  return { result, step: ofTwo(sign, a as Values, b as Values, out) }
}

type Values = Exclude<Operand, { kind: 'constant' }>

const offsetOf = (o: Values, at: number): number => (o.kind === 'channel' ? at : 0)

function withConstant(sign: Sign, a: Values, c: number, out: Float64Array): Step {
  const x = a.values
  // A division by a number stays a division: its reciprocal would change the last digit.
  switch (sign) {
    case '+': return (at, n) => { for (let i = 0, j = offsetOf(a, at); i < n; i++, j++) out[i] = x[j]! + c }
    case '-': return (at, n) => { for (let i = 0, j = offsetOf(a, at); i < n; i++, j++) out[i] = x[j]! - c }
    case '*': return (at, n) => { for (let i = 0, j = offsetOf(a, at); i < n; i++, j++) out[i] = x[j]! * c }
    case '/': return (at, n) => { for (let i = 0, j = offsetOf(a, at); i < n; i++, j++) out[i] = x[j]! / c }
    case '^': return c === 2
      ? (at, n) => { for (let i = 0, j = offsetOf(a, at); i < n; i++, j++) out[i] = x[j]! * x[j]! }
      : (at, n) => { for (let i = 0, j = offsetOf(a, at); i < n; i++, j++) out[i] = x[j]! ** c }
  }
}

function fromConstant(sign: Sign, c: number, b: Values, out: Float64Array): Step {
  const y = b.values
  switch (sign) {
    case '+': return withConstant('+', b, c, out)
    case '*': return withConstant('*', b, c, out)
    case '-': return (at, n) => { for (let i = 0, j = offsetOf(b, at); i < n; i++, j++) out[i] = c - y[j]! }
    case '/': return (at, n) => { for (let i = 0, j = offsetOf(b, at); i < n; i++, j++) out[i] = c / y[j]! }
    case '^': return (at, n) => { for (let i = 0, j = offsetOf(b, at); i < n; i++, j++) out[i] = c ** y[j]! }
  }
}

function ofTwo(sign: Sign, a: Values, b: Values, out: Float64Array): Step {
  const [x, y] = [a.values, b.values]
  switch (sign) {
    case '+': return (at, n) => { for (let i = 0, j = offsetOf(a, at), k = offsetOf(b, at); i < n; i++, j++, k++) out[i] = x[j]! + y[k]! }
    case '-': return (at, n) => { for (let i = 0, j = offsetOf(a, at), k = offsetOf(b, at); i < n; i++, j++, k++) out[i] = x[j]! - y[k]! }
    case '*': return (at, n) => { for (let i = 0, j = offsetOf(a, at), k = offsetOf(b, at); i < n; i++, j++, k++) out[i] = x[j]! * y[k]! }
    case '/': return (at, n) => { for (let i = 0, j = offsetOf(a, at), k = offsetOf(b, at); i < n; i++, j++, k++) out[i] = x[j]! / y[k]! }
    case '^': return (at, n) => { for (let i = 0, j = offsetOf(a, at), k = offsetOf(b, at); i < n; i++, j++, k++) out[i] = x[j]! ** y[k]! }
  }
}

/** A function of any number of operands; one and two have loops of their own. */
export function callKernel(name: string, of: (args: readonly number[]) => number, operands: Operand[], block: number): Kernel {
  if (operands.every(o => o.kind === 'constant')) return { result: { kind: 'constant', value: of(operands.map(o => (o as { value: number }).value)) }, step: null }
  if (name === 'diff') return binaryKernel('-', operands[0]!, operands[1]!, block)
  const out = new Float64Array(block)
  const result: Operand = { kind: 'block', values: out }
  const single = SINGLE[name]
  const [first] = operands
  if (single && first && first.kind !== 'constant') {
    const x = first.values
    return { result, step: (at, n) => { for (let i = 0, j = offsetOf(first, at); i < n; i++, j++) out[i] = single(x[j]!) } }
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
        out[i] = of(args)
      }
    },
  }
}

const SINGLE: Readonly<Record<string, ((x: number) => number) | undefined>> = { exp: Math.exp, log: Math.log, log10: Math.log10, sqrt: Math.sqrt, sin: Math.sin, cos: Math.cos, tan: Math.tan, atan: Math.atan, abs: Math.abs }
