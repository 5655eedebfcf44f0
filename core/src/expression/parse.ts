import { toSi } from '../quantity/convert'
import type { Dimension } from '../quantity/dimension'
import { expressionError, tokenize, type Token } from './tokens'

export type Node =
  /** SI; with a dimension where it was written with its unit. */
  | { kind: 'number'; value: number; dimension?: Dimension; at: number }
  | { kind: 'name'; name: string; at: number }
  | { kind: 'negate'; of: Node; at: number }
  | { kind: 'binary'; sign: '+' | '-' | '*' | '/' | '^'; left: Node; right: Node; at: number }
  | { kind: 'call'; name: string; args: Node[]; at: number }

const DEEPEST = 60
const MOST_NODES = 1000

/**
 * Parses an expression of + − * / ^ ( ), names and calls, by precedence: ^ binds tightest and to the right, a sign in
 * front binds looser than ^. Depth and size are bounded.
 *
 * @throws HypometError `expression` with the position
 * @example parse('(vg1 + vg2)/2 - frame')
 */
export function parse(text: string): Node {
  const tokens = tokenize(text)
  let [next, nodes] = [0, 0]
  const peek = (): Token | undefined => tokens[next]
  const takes = (sign: string): Token | undefined =>
    peek()?.kind === 'sign' && peek()!.text === sign ? tokens[next++] : undefined
  const end = text.length

  function made<N extends Node>(node: N): N {
    if (++nodes > MOST_NODES) throw expressionError(`An expression has at most ${MOST_NODES} parts`, node.at)
    return node
  }
  function needs(sign: string, why: string): void {
    if (!takes(sign)) throw expressionError(why, peek()?.at ?? end)
  }

  function sum(depth: number): Node {
    let left = product(depth)
    for (;;) {
      const sign = takes('+') ?? takes('-')
      if (!sign) return left
      left = made({ kind: 'binary', sign: sign.text as '+' | '-', left, right: product(depth), at: sign.at })
    }
  }
  function product(depth: number): Node {
    let left = signed(depth)
    for (;;) {
      const sign = takes('*') ?? takes('/')
      if (!sign) return left
      left = made({ kind: 'binary', sign: sign.text as '*' | '/', left, right: signed(depth), at: sign.at })
    }
  }
  function signed(depth: number): Node {
    if (depth > DEEPEST) throw expressionError('This is nested too deeply', peek()?.at ?? end)
    const minus = takes('-')
    if (minus) return made({ kind: 'negate', of: signed(depth + 1), at: minus.at })
    if (takes('+')) return signed(depth + 1)
    return power(depth)
  }
  function power(depth: number): Node {
    const base = primary(depth)
    const sign = takes('^')
    return sign ? made({ kind: 'binary', sign: '^', left: base, right: signed(depth + 1), at: sign.at }) : base
  }
  function primary(depth: number): Node {
    const token = peek()
    if (!token) throw expressionError('Something is missing at the end', end)
    next++
    if (token.kind === 'number') return made(numberOf(token))
    if (token.kind === 'name')
      return takes('(') ? call(token, depth) : made({ kind: 'name', name: token.text, at: token.at })
    if (token.text !== '(') throw expressionError(`“${token.text}” cannot stand here`, token.at)
    const inner = sum(depth + 1)
    needs(')', 'A closing parenthesis is missing')
    return inner
  }
  function call(name: Token, depth: number): Node {
    const args: Node[] = []
    if (!takes(')')) {
      do args.push(sum(depth + 1))
      while (takes(','))
      needs(')', 'A closing parenthesis is missing')
    }
    return made({ kind: 'call', name: name.text, args, at: name.at })
  }

  const tree = sum(0)
  const rest = peek()
  if (rest) throw expressionError(`“${rest.text}” cannot stand here`, rest.at)
  return tree
}

function numberOf({ text, unit, at }: Token): Extract<Node, { kind: 'number' }> {
  return unit
    ? { kind: 'number', value: toSi(Number(text), unit), dimension: unit.dimension, at }
    : { kind: 'number', value: Number(text), at }
}

/** Names that an expression reads, in order of first appearance; `pi` is none of them. */
export function namesIn(node: Node): string[] {
  const found = new Set<string>()
  const visit = (n: Node): void => {
    if (n.kind === 'name' && n.name !== 'pi') found.add(n.name)
    else if (n.kind === 'negate') visit(n.of)
    else if (n.kind === 'binary') [n.left, n.right].forEach(visit)
    else if (n.kind === 'call') n.args.forEach(visit)
  }
  visit(node)
  return [...found]
}

/** A number that is written as one, its sign included; null for anything else. */
export function signedNumber(n: Node): number | null {
  if (n.kind === 'number') return n.value
  if (n.kind === 'negate') {
    const inner = signedNumber(n.of)
    return inner === null ? null : -inner
  }
  return null
}
