import { HypometError } from '../error'
import type { Unit } from '../quantity/units'
import { unitAt } from './unitTable'

export interface Token {
  kind: 'number' | 'name' | 'sign'
  text: string
  /** From 0, for the mark under the expression. */
  at: number
  /** Of a number that has one: a blank and the unit behind it. */
  unit?: Unit
}

const MOST_CHARACTERS = 2000
const TOKEN = /\s*(?:(\d+\.?\d*(?:[eE][+-]?\d+)?|\.\d+(?:[eE][+-]?\d+)?)|([A-Za-z_][A-Za-z0-9_]*)|([-+*/^(),−]))/y

/** An expression's error always says where it is. */
export const expressionError = (
  message: string,
  at: number,
  code: 'expression' | 'unit-dimension' = 'expression',
): HypometError =>
  new HypometError(code, `${message} (at character ${at + 1})`, {
    path: 'expression',
    row: 1,
    column: String(at + 1),
  })

/** @throws HypometError `expression` with the position */
export function tokenize(text: string): Token[] {
  if (text.length > MOST_CHARACTERS)
    throw expressionError(`An expression has at most ${MOST_CHARACTERS} characters`, MOST_CHARACTERS)
  const tokens: Token[] = []
  let at = 0
  while (at < text.trimEnd().length) {
    TOKEN.lastIndex = at
    const match = TOKEN.exec(text)
    if (!match) {
      const bad = at + /^\s*/.exec(text.slice(at))![0].length
      throw expressionError(`“${text[bad]}” has no meaning here`, bad)
    }
    const [whole, number, name, sign] = match
    const token = (number ?? name ?? sign)!
    const start = at + whole.length - token.length
    at += whole.length
    if (number !== undefined) {
      const blanks = /^\s*/.exec(text.slice(at))![0].length
      const found = blanks > 0 ? unitAt(text, at + blanks) : null
      if (found) at += blanks + found.text.length
      tokens.push({ kind: 'number', text: number, at: start, ...(found ? { unit: found.unit } : {}) })
    } else tokens.push({ kind: name !== undefined ? 'name' : 'sign', text: token === '−' ? '-' : token, at: start })
  }
  return tokens
}
