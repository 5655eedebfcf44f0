/** Where something is wrong: a key in a setup, or a cell in a file. Rows count from 1 as an editor shows them. */
export interface Place {
  path?: string
  file?: string
  row?: number
  column?: string
}

/**
 * The one error of the house: a stable code for programs, a plain sentence for people, and the place.
 * Codes are those of the contract (`missing-column`, `unit-dimension`, `time-order`, …).
 */
export class HypometError extends Error {
  override readonly name = 'HypometError'

  constructor(
    readonly code: string,
    message: string,
    readonly place: Place = {},
  ) {
    super(message)
  }

  /** The same error, seen from further out: what is already known of the place wins. */
  at(place: Place): HypometError {
    return new HypometError(this.code, this.message, { ...place, ...this.place })
  }
}

export const isHypometError = (e: unknown): e is HypometError => e instanceof HypometError
