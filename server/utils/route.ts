import { personInHeader } from '../live/person'
import { assertWritable, MOST_JSON, tooLong, USUAL_JSON } from '../sentJson'
import { storeCode } from '../db/connection/trouble'
import { answerOf } from '../refusal'
import { HypometError, plainIssue } from '@hypomet/core'
import type { EventHandler, EventHandlerRequest, H3Event } from 'h3'
import * as z from 'zod'

type Event = H3Event<EventHandlerRequest>

/** What a route takes, checked before its handler runs; `/api/openapi.json` is made from it. */
export interface RouteInput {
  body?: z.ZodType
  query?: z.ZodType
  /** Whole tables are sent: more, and longer texts, than anybody types. */
  isRows?: true
}
type Parsed<I extends RouteInput> = {
  [K in keyof I]: I[K] extends z.ZodType ? z.output<I[K]> : never
}

/**
 * A route: what it takes, and a handler that gets it checked. An error of the house is answered with its code, sentence
 * and place.
 */
export function defineRoute<T>(handler: (event: Event) => Promise<T> | T): Route<T, RouteInput>
export function defineRoute<I extends RouteInput, T>(
  input: I,
  handler: (event: Event, parsed: Parsed<I>) => Promise<T> | T,
): Route<T, I>
export function defineRoute(
  first: RouteInput | ((event: Event) => unknown),
  second?: (event: Event, parsed: Parsed<RouteInput>) => unknown,
) {
  const input = typeof first === 'function' ? {} : first
  const handler = typeof first === 'function' ? first : second!
  const route = defineEventHandler(async event => {
    setResponseHeaders(event, WALLED_IN)
    try {
      return await handler(event, await parsedInput(event, input))
    } catch (e) {
      if (storeCode(e) === 'SQLITE_CORRUPT') useServices().database.isDamaged = true
      const known = answerOf(e)
      throw known ? createError(known) : e
    }
  })
  return Object.assign(route, { input })
}

/** No other page has use of an answer, and nothing in it runs; what may be kept a route says itself. */
const WALLED_IN = {
  'cache-control': 'no-store',
  'content-security-policy': "default-src 'none'; frame-ancestors 'none'",
  'cross-origin-resource-policy': 'same-origin',
  'x-content-type-options': 'nosniff',
}

type Route<T, I extends RouteInput> = EventHandler<EventHandlerRequest, Promise<T>> & { input: I }

async function parsedInput(event: Event, { body, query, isRows }: RouteInput): Promise<Parsed<RouteInput>> {
  return {
    ...(query && { query: query.parse(getQuery(event), { error: plainIssue }) }),
    ...(body && { body: body.parse(await jsonOf(event, isRows ?? false), { error: plainIssue }) }),
  } as Parsed<RouteInput>
}

/** What was sent as JSON, of a length and with texts that may be; of a body that is none the page's own words would be
 * the parser's. */
async function jsonOf(event: Event, isRows: boolean): Promise<unknown> {
  const most = isRows ? MOST_JSON : USUAL_JSON
  if (Number(getRequestHeader(event, 'content-length') ?? 0) > most) throw tooLong(most)
  const type = getRequestHeader(event, 'content-type')
  // Calls of the server to itself say no type. Forms of other pages can send none but their own.
  if (type !== undefined && !/^application\/json\b/i.test(type))
    throw new HypometError('not-json', 'What is sent here is JSON, and says so.')
  let sent: unknown
  try {
    sent = await readBody<unknown>(event)
  } catch {
    throw new HypometError('not-json', 'What was sent is not JSON.')
  }
  assertWritable(sent, { isRows })
  return sent
}

/** An id in a query; what is no id counts as none. */
export const optionalId = z.coerce.number().int().positive().nullable().catch(null).default(null)

/** A whole number from the address. */
export function idOf(event: H3Event, name = 'id'): number {
  const id = Number(getRouterParam(event, name))
  if (!Number.isSafeInteger(id) || id < 1) throw new HypometError('not-found', 'There is nothing at this address.')
  return id
}

/**
 * Who is at the keyboard, as they said. A page on which nobody has said it yet asks, and sends the same again; what
 * comes from elsewhere may do without.
 *
 * @throws HypometError `missing-name`
 */
export function personOf(event: H3Event): string {
  const header = getRequestHeader(event, 'x-hypomet-person')
  if (header === '') throw new HypometError('missing-name', 'Say who you are first: every change bears a name.')
  return personInHeader(header)
}

/** The register that the address names. */
export const registerOf = (event: H3Event): string => getRouterParam(event, 'register') ?? ''
