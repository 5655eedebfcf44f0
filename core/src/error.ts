import { errorCodeOf, type ErrorCode } from './errorCodes'

/** Where something is wrong: a key in a setup, or a cell in a file. Rows count from 1 as an editor shows them. */
export interface Place {
  path?: string
  file?: string
  row?: number
  column?: string
}

/**
 * The one error of the house: a stable code for programs, a plain sentence for people, and the place.
 * Codes are listed in `errorCodes.ts`.
 */
export class HypometError extends Error {
  override readonly name = 'HypometError'

  constructor(
    readonly code: ErrorCode,
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

/** An error as it goes to another thread or into a row of the database. */
export interface Refusal {
  code: ErrorCode
  message: string
  place: Place
}

export const toRefusal = ({ code, message, place }: HypometError): Refusal => ({ code, message, place: { ...place } })
export const fromRefusal = ({ code, message, place }: Refusal): HypometError => new HypometError(code, message, place)

/** An error as a route answers it, read by whoever asked; `otherwise` where the answer says nothing. */
export function answeredError(
  answer: { message?: string; data?: { code?: string } & Place } | undefined,
  otherwise: string,
): HypometError {
  const { code, ...place } = answer?.data ?? {}
  return new HypometError(errorCodeOf(code), answer?.message ?? otherwise, place)
}
