import type { Cause } from './cause'

/* Where something was expected to fail, and where it did. */

/** Who said where, or how; a calculation says a length. */
export interface PlaceSaid {
  by: string
  place: string
  mode: string
}

export interface PlaceCompared extends PlaceSaid {
  /** Null where one of both says nothing. */
  isPlace: boolean | null
  isMode: boolean | null
}

const words = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}.]+/u)
    .filter(w => w.length > 0 && !['the', 'a', 'an', 'of', 'at', 'in', 'on', 'near', 'by'].includes(w))

/** The same place in the words of two people: all words of the shorter one are in the other, endings apart. */
export function isSamePlace(a: string, b: string): boolean {
  const [x, y] = [words(a), words(b)].sort((p, q) => p.length - q.length) as [string[], string[]]
  const like = (p: string, q: string) =>
    p === q || (Math.min(p.length, q.length) > 3 && (p.startsWith(q) || q.startsWith(p)))
  return x.length > 0 && x.every(p => y.some(q => like(p, q)))
}

/** What ended a test, where and how. */
export interface PlaceSeen {
  cause: Cause | null
  place: string
  mode: string
}

/**
 * Each prediction of a place or a mode beside what was seen. Where a fixture gave way, or nothing did, nobody knows
 * where the article would have.
 */
export function placesCompared(predicted: readonly PlaceSaid[], seen: PlaceSeen): PlaceCompared[] {
  const compare = (said: string, saw: string) =>
    seen.cause !== 'article' || said.trim() === '' || saw.trim() === '' ? null : isSamePlace(said, saw)
  return predicted
    .filter(p => p.place.trim() !== '' || p.mode.trim() !== '')
    .map(p => ({ ...p, isPlace: compare(p.place, seen.place), isMode: compare(p.mode, seen.mode) }))
}

/**
 * By who said so, in how many of the tests that can tell it a place was named that was right.
 *
 * @param tests  what was foretold of each
 */
export function placesRight(tests: readonly (readonly PlaceCompared[])[]): { by: string; right: number; of: number }[] {
  const known = tests.flatMap(all => {
    const told = all.filter(p => p.isPlace !== null)
    const sources = [...new Set(told.map(p => p.by))]
    return sources.map(by => ({ by, isPlace: told.some(p => p.by === by && p.isPlace) }))
  })
  return [...new Set(known.map(p => p.by))].map(by => {
    const own = known.filter(p => p.by === by)
    return { by, right: own.filter(p => p.isPlace).length, of: own.length }
  })
}
