import { BASES, DIMENSIONLESS, dimension, multiply, power, sameDimension, type Dimension } from '../quantity/dimension'
import { siUnitOf } from '../quantity/index'
import { signedNumber, type Node } from './parse'
import { expressionError } from './tokens'

const SECOND = dimension({ s: 1 })
const HERTZ = dimension({ s: -1 })
const ANGLE = dimension({ rad: 1 })

/** Takes angles and plain ratios alike. */
const isNumber = (d: Dimension): boolean => alike(d, DIMENSIONLESS)

/**
 * Dimension of an expression over channels; adding unlike dimensions is an error with its position.
 *
 * @throws HypometError `expression` for what is not there, `unit-dimension` for what does not go together
 */
export function dimensionOf(node: Node, known: Readonly<Record<string, Dimension>>): Dimension {
  switch (node.kind) {
    case 'number':
      return node.dimension ?? DIMENSIONLESS
    case 'name': {
      if (Object.hasOwn(known, node.name)) return known[node.name]!
      if (node.name === 'pi') return DIMENSIONLESS
      throw expressionError(`There is no channel “${node.name}”`, node.at)
    }
    case 'negate':
      return dimensionOf(node.of, known)
    case 'binary':
      return ofBinary(node, dimensionOf(node.left, known), dimensionOf(node.right, known))
    case 'call':
      return ofCall(
        node,
        node.args.map(a => dimensionOf(a, known)),
      )
  }
}

const isZero = (n: Node): boolean => n.kind === 'number' && n.value === 0 && n.dimension === undefined

/** Angles are plain numbers. */
export const alike = (a: Dimension, b: Dimension): boolean => sameDimension(withoutAngle(a), withoutAngle(b))
const withoutAngle = (d: Dimension): Dimension => d.map((x, i) => (BASES[i] === 'rad' ? 0 : x))

function ofBinary(node: Extract<Node, { kind: 'binary' }>, a: Dimension, b: Dimension): Dimension {
  switch (node.sign) {
    case '+':
    case '-':
      if (isZero(node.left)) return b
      if (isZero(node.right)) return a
      if (!alike(a, b))
        throw mismatch(`${siUnitOf(a)} and ${siUnitOf(b)} cannot be added or taken from one another`, node.at)
      return a
    case '*':
      return multiply(a, b)
    case '/':
      return multiply(a, power(b, -1))
    case '^': {
      if (!isNumber(b)) throw mismatch('An exponent is a plain number', node.at)
      if (isNumber(a)) return DIMENSIONLESS
      const n = signedNumber(node.right)
      if (n === null) throw mismatch('Something with a unit can only be raised to a fixed number', node.at)
      return power(a, n)
    }
  }
}

const mismatch = (message: string, at: number) => expressionError(message, at, 'unit-dimension')

/** All of one dimension; a plain 0 fits any. */
function ofSeveral(node: Extract<Node, { kind: 'call' }>, args: Dimension[]): Dimension {
  const counted = args.filter((_, i) => !isZero(node.args[i]!))
  const first = counted[0] ?? DIMENSIONLESS
  if (counted.some(d => !alike(d, first))) throw mismatch(`“${node.name}” wants channels of one dimension`, node.at)
  return first
}

function ofCall(node: Extract<Node, { kind: 'call' }>, args: Dimension[]): Dimension {
  const first = args[0] ?? DIMENSIONLESS
  switch (node.name) {
    case 'abs':
      return first
    case 'mean':
    case 'diff':
    case 'min':
    case 'max':
      return ofSeveral(node, args)
    case 'sqrt':
      return power(first, 0.5)
    case 'deriv':
      return multiply(first, power(SECOND, -1))
    case 'integ':
      return multiply(first, SECOND)
    case 'moved': {
      if (!sameDimension(first, SECOND) && !isNumber(first)) throw mismatch('The time at rest is a time', node.at)
      const [places, direction] = [args.slice(1, 4).concat(args.slice(7)), args.slice(4, 7)]
      if (!direction.every(isNumber)) throw mismatch('A direction is three plain numbers', node.at)
      return ofSeveral({ ...node, args: node.args.slice(1, 4).concat(node.args.slice(7)) }, places)
    }
    case 'lowpass':
      if (args[1] && !sameDimension(args[1], HERTZ) && !isNumber(args[1]))
        throw mismatch('A cutoff is a frequency', node.at)
      return first
    case 'sin':
    case 'cos':
    case 'tan':
    case 'exp':
    case 'log':
    case 'log10':
      if (!isNumber(first))
        throw mismatch(`“${node.name}” wants a plain number or an angle, not ${siUnitOf(first)}`, node.at)
      return DIMENSIONLESS
    case 'atan':
      if (!isNumber(first)) throw mismatch(`“atan” wants a plain number, not ${siUnitOf(first)}`, node.at)
      return ANGLE
    default:
      throw expressionError(`There is no function “${node.name}”`, node.at)
  }
}
