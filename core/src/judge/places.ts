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

/** Each prediction of a place or a mode beside what was seen. */
export function placesCompared(
  predicted: readonly PlaceSaid[],
  seen: { place: string; mode: string },
): PlaceCompared[] {
  const compare = (said: string, saw: string) =>
    said.trim() === '' || saw.trim() === '' ? null : isSamePlace(said, saw)
  return predicted
    .filter(p => p.place.trim() !== '' || p.mode.trim() !== '')
    .map(p => ({ ...p, isPlace: compare(p.place, seen.place), isMode: compare(p.mode, seen.mode) }))
}

/** Of those that can be told, how many were right, by who said so. */
export function placesRight(all: readonly PlaceCompared[]): { by: string; right: number; of: number }[] {
  const known = all.filter(p => p.isPlace !== null)
  return [...new Set(known.map(p => p.by))].map(by => {
    const own = known.filter(p => p.by === by)
    return { by, right: own.filter(p => p.isPlace).length, of: own.length }
  })
}
