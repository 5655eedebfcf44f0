import { ERROR_CODES, isHypometError, settingsErrors, type Place } from '@hypomet/core'
import * as z from 'zod'
import { storeTrouble } from './db/connection/trouble'

/** A refusal as it is answered over HTTP, by whichever process. */
export interface Answered {
  statusCode: number
  message: string
  data: Place & { code: string }
}

/** Null for what is no error of the house: that is a fault of ours, and no refusal. */
export function answerOf(e: unknown): Answered | null {
  const known = e instanceof z.ZodError ? settingsErrors(e.issues, undefined, '')[0] : (storeTrouble(e) ?? e)
  if (!isHypometError(known)) return null
  const { code, message, place } = known
  return { statusCode: ERROR_CODES[code][0], message, data: { code, ...place } }
}
