import { UNNAMED } from '../db/connection/unnamed'
import { isHypometError, HypometError, settingsErrors } from '@hypomet/core'
import type { EventHandlerRequest, H3Event } from 'h3'
import { ZodError, type z } from 'zod'

const STATUS: Record<string, number> = { 'not-found': 404, internal: 500, 'changed-meanwhile': 409 }

/** A route that answers an error of the house with its code, sentence and place. */
export function defineRoute<T>(handler: (event: H3Event<EventHandlerRequest>) => Promise<T> | T) {
  return defineEventHandler(async (event): Promise<T> => {
    try {
      return await handler(event)
    } catch (e) {
      const known = e instanceof ZodError ? settingsErrors(e.issues, undefined, '')[0] : e
      if (!isHypometError(known)) throw e
      throw createError({
        statusCode: STATUS[known.code] ?? 422,
        message: known.message,
        data: { code: known.code, ...known.place },
      })
    }
  })
}

/** A JSON body that fits its schema. */
export async function bodyOf<S extends z.ZodType>(event: H3Event, schema: S): Promise<z.output<S>> {
  return schema.parse(await readBody<unknown>(event))
}

/** A whole number from the address. */
export function idOf(event: H3Event, name = 'id'): number {
  const id = Number(getRouterParam(event, name))
  if (!Number.isInteger(id) || id < 1) throw new HypometError('not-found', 'There is nothing at this address.')
  return id
}

/** Who is at the keyboard, as they said; without accounts this is a name, not a proof. */
export function personOf(event: H3Event): string {
  const said = getRequestHeader(event, 'x-hypomet-person')
  return (said ? decodeURIComponent(said) : '').trim().slice(0, 60) || UNNAMED
}

/** The register that the address names. */
export const registerOf = (event: H3Event): string => getRouterParam(event, 'register') ?? ''

/** The campaign that a query names; null where rows belong to none. */
export function campaignIdOf(event: H3Event): number | null {
  const id = Number(getQuery(event)['campaignId'])
  return Number.isInteger(id) && id > 0 ? id : null
}

/** The same for a socket, which bears no header of ours but the page's cookie. */
export function personFrom(headers: Headers): string {
  const said = /(?:^|;\s*)hypomet-person=([^;]*)/.exec(headers.get('cookie') ?? '')?.[1] ?? ''
  return decodeURIComponent(said).trim().slice(0, 60) || UNNAMED
}
