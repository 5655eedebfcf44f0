import { evaluator, type Evaluator } from './evaluate'
import type { Node } from './parse'
import { expressionError } from './tokens'

/**
 * Partial derivative of an expression by the rules of calculus, as an evaluator of its own: exact to rounding, where a
 * difference quotient loses half the digits. At a kink (abs, min, max) the side that counts is taken.
 *
 * @param variable  one of `names`
 */
export function derivative(node: Node, names: readonly string[], variable: string): Evaluator {
  const d = (n: Node): Evaluator => derivative(n, names, variable)
  const value = (n: Node): Evaluator => evaluator(n, names)
  switch (node.kind) {
    case 'number':
      return () => 0
    case 'name':
      return node.name === variable ? () => 1 : () => 0
    case 'negate': {
      const of = d(node.of)
      return v => -of(v)
    }
    case 'binary':
      return ofBinary(node.sign, value(node.left), value(node.right), d(node.left), d(node.right))
    case 'call':
      return ofCall(node, node.args.map(value), node.args.map(d))
  }
}

function ofBinary(
  sign: '+' | '-' | '*' | '/' | '^',
  a: Evaluator,
  b: Evaluator,
  da: Evaluator,
  db: Evaluator,
): Evaluator {
  switch (sign) {
    case '+':
      return v => da(v) + db(v)
    case '-':
      return v => da(v) - db(v)
    case '*':
      return v => da(v) * b(v) + a(v) * db(v)
    case '/':
      return v => (da(v) - (a(v) / b(v)) * db(v)) / b(v)
    case '^':
      return v => {
        const [base, exponent, slope] = [a(v), b(v), db(v)]
        const ofBase = da(v) === 0 ? 0 : exponent * base ** (exponent - 1) * da(v)
        return slope === 0 ? ofBase : ofBase + base ** exponent * Math.log(base) * slope
      }
  }
}

const CHAIN: Readonly<Record<string, (x: number) => number>> = {
  exp: Math.exp,
  log: x => 1 / x,
  log10: x => 1 / (x * Math.LN10),
  sqrt: x => 0.5 / Math.sqrt(x),
  sin: Math.cos,
  cos: x => -Math.sin(x),
  tan: x => 1 / Math.cos(x) ** 2,
  atan: x => 1 / (1 + x * x),
  abs: Math.sign,
}

function ofCall(node: Extract<Node, { kind: 'call' }>, args: Evaluator[], slopes: Evaluator[]): Evaluator {
  const [x, dx] = [args[0]!, slopes[0]!]
  const chain = Object.hasOwn(CHAIN, node.name) ? CHAIN[node.name] : undefined
  if (chain) return v => (dx(v) === 0 ? 0 : chain(x(v)) * dx(v))
  switch (node.name) {
    case 'mean':
      return v => slopes.reduce((sum, s) => sum + s(v), 0) / slopes.length
    case 'diff':
      return v => slopes[0]!(v) - slopes[1]!(v)
    case 'min':
    case 'max': {
      const wins = node.name === 'min' ? (a: number, b: number) => a < b : (a: number, b: number) => a > b
      return v => slopes[args.reduce((best, arg, i) => (wins(arg(v), args[best]!(v)) ? i : best), 0)]!(v)
    }
    default:
      throw expressionError(`“${node.name}” has no derivative here`, node.at)
  }
}
