import { HypometError } from '@hypomet/core'

/** Bytes of JSON that a route takes, that one of many rows takes. */
export const USUAL_JSON = 1024 ** 2
export const MOST_JSON = 20 * 1024 ** 2

/** Letters of a name, and of a text. */
const [MOST_NAME, MOST_TEXT] = [500, 50_000]
const NAMES = /^(title|name|label|slug|symbol|by|who|person|place|unit|column|fileName|role|key)$/
const DEEPEST = 64

export const tooLong = (most: number): HypometError =>
  new HypometError(
    'too-large',
    `What was sent is longer than the ${Math.round(most / 1024 ** 2)} MB that are taken here.`,
  )

/**
 * Holds what was sent to lengths that a person could have written: names, texts, and how deep things are nested.
 *
 * @param isRows  texts of any length may be in it: whole tables are pasted
 * @throws HypometError `too-large` with the place
 */
export function assertWritable(value: unknown, { isRows = false }: { isRows?: boolean } = {}): void {
  const look = (v: unknown, key: string, path: string, depth: number): void => {
    if (typeof v === 'string') {
      const most = NAMES.test(key) ? MOST_NAME : isRows ? Infinity : MOST_TEXT
      if (v.length > most)
        throw new HypometError('too-large', `Up to ${most.toLocaleString('en')} letters are taken here.`, { path })
      return
    }
    if (typeof v !== 'object' || v === null) return
    if (depth > DEEPEST) throw new HypometError('too-large', 'This is nested too deeply.', { path })
    const at = (k: string) => (path === '' ? k : `${path}.${k}`)
    if (Array.isArray(v)) v.forEach((item, i) => look(item, key, at(String(i)), depth + 1))
    else for (const [k, item] of Object.entries(v)) look(item, k, at(k), depth + 1)
  }
  look(value, '', '', 0)
}
