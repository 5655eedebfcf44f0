import { answeredError, HypometError, isHypometError } from '@hypomet/core'
import type * as z from 'zod'
import { usePerson } from './usePerson'
import type { Routes } from '~/types/routes'

type Method = 'GET' | 'POST' | 'PUT' | 'DELETE'

/** An address as the table of routes writes it: of `/api/tests/${number}/plan?edit=2` that is `/api/tests/:/plan`. */
type Pattern<P extends string> = P extends `${infer Path}?${string}` ? Segments<Path> : Segments<P>
type Segments<P extends string> = P extends `${infer First}/${infer Rest}`
  ? `${Segment<First>}/${Segments<Rest>}`
  : Segment<P>
/** What is not known when the program is written stands for an id. */
type Segment<S extends string> = Record<never, never> extends Record<S, true> ? ':' : S

/** The last part as an id, for those written out: `/api/registers/limit`. */
type LastById<P extends string> = P extends `${infer First}/${infer Rest}`
  ? `${First}/${Rest extends `${string}/${string}` ? LastById<Rest> : ':'}`
  : never
type At<M extends Method, P extends string> = `${M} ${P}` extends keyof Routes
  ? Routes[`${M} ${P}`]
  : `${M} ${LastById<P>}` extends keyof Routes
    ? Routes[`${M} ${LastById<P>}`]
    : never
type RouteAt<M extends Method, P extends string> = At<M, Pattern<P>>
export type AnswerAt<M extends Method, P extends string> = Awaited<ReturnType<RouteAt<M, P>>>
export type BodyAt<M extends Method, P extends string> =
  RouteAt<M, P> extends { input: { body: infer S extends z.ZodType } } ? z.input<S> : undefined

type Query = Record<string, string | number | undefined>

/** Calls the server as the person at the keyboard; refusals come back as errors of the house. */
export function useApi() {
  const person = usePerson()
  const { ask } = useAskedName()
  async function call(
    method: Method,
    path: string,
    body?: unknown,
    query: Query = {},
    headers: Record<string, string> = {},
  ): Promise<unknown> {
    const send = (name: string) =>
      $fetch<unknown>(path, {
        method,
        query,
        headers: { 'x-hypomet-person': encodeURIComponent(name), ...headers },
        ...(body === undefined ? {} : { body: body as Record<string, unknown> }),
      }).catch((e: unknown) => {
        throw asHypometError(e)
      })
    try {
      return await send(person.value)
    } catch (e) {
      const isUnnamed = isHypometError(e) && e.code === 'missing-name' && person.value === '' && import.meta.client
      const name = isUnnamed ? await ask() : null
      if (name === null) throw e
      return await send(name)
    }
  }
  return {
    get: <P extends string>(path: P, query?: Query) =>
      call('GET', path, undefined, query) as Promise<AnswerAt<'GET', P>>,
    post: <P extends string>(path: P, ...[body]: BodyAt<'POST', P> extends undefined ? [] : [BodyAt<'POST', P>]) =>
      call('POST', path, body ?? {}) as Promise<AnswerAt<'POST', P>>,
    put: <P extends string>(path: P, body: BodyAt<'PUT', P> extends undefined ? Blob : BodyAt<'PUT', P>) =>
      call('PUT', path, body) as Promise<AnswerAt<'PUT', P>>,
    upload: <P extends string>(path: P, file: File) =>
      call('POST', path, file, {}, fileHeaders(file)) as Promise<AnswerAt<'POST', P>>,
    remove: <P extends string>(path: P) => call('DELETE', path) as Promise<AnswerAt<'DELETE', P>>,
  }
}

const fileHeaders = (file: File) => ({
  'content-type': 'application/octet-stream',
  'x-file-name': encodeURIComponent(file.name),
})

function asHypometError(e: unknown): Error {
  const answer = (e as { data?: Parameters<typeof answeredError>[0] }).data
  if (answer?.data?.code) return answeredError(answer, answer.data.code)
  return new HypometError('unreachable', 'Hypomet’s server does not answer. What you entered is still here; try again.')
}
