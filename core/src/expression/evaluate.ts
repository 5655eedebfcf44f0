import { functionNamed } from './functions'
import type { Node } from './parse'
import { expressionError } from './tokens'

/** An expression of numbers, ready to be called many times with values in the order of `names`. */
export type Evaluator = (values: ArrayLike<number>) => number

/**
 * Turns a parsed expression into nested closures: no text ever reaches the language's own evaluator.
 *
 * @throws HypometError `expression` for a name or function that is not there, with its position
 */
export function evaluator(node: Node, names: readonly string[]): Evaluator {
  switch (node.kind) {
    case 'number': {
      const { value } = node
      return () => value
    }
    case 'name': {
      const index = names.indexOf(node.name)
      if (index >= 0) return values => values[index]!
      if (node.name === 'pi') return () => Math.PI
      throw expressionError(`“${node.name}” is not known here`, node.at)
    }
    case 'negate': {
      const of = evaluator(node.of, names)
      return v => -of(v)
    }
    case 'binary': {
      const [a, b] = [evaluator(node.left, names), evaluator(node.right, names)]
      switch (node.sign) {
        case '+':
          return v => a(v) + b(v)
        case '-':
          return v => a(v) - b(v)
        case '*':
          return v => a(v) * b(v)
        case '/':
          return v => a(v) / b(v)
        case '^':
          return v => a(v) ** b(v)
      }
      break
    }
    case 'call': {
      const f = functionNamed(node.name)
      if (!f) throw expressionError(`There is no function “${node.name}”`, node.at)
      if (node.args.length < f.least || node.args.length > f.most)
        throw expressionError(
          `“${node.name}” takes ${f.least === f.most ? f.least : `${f.least} or more`} ` +
            `${f.most === 1 ? 'argument' : 'arguments'}`,
          node.at,
        )
      const args = node.args.map(arg => evaluator(arg, names))
      return v => f.of(args.map(arg => arg(v)))
    }
  }
}
