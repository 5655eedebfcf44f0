import { HypometError, type Place } from '@hypomet/core'
import { usePerson } from './usePerson'

/** Calls the server as the person at the keyboard; refusals come back as errors of the house. */
export function useApi() {
  const person = usePerson()
  async function call<T>(
    method: 'GET' | 'POST' | 'PUT' | 'DELETE',
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<T> {
    try {
      return (await $fetch<unknown>(path, {
        method,
        headers: { 'x-hypomet-person': encodeURIComponent(person.value), ...headers },
        ...(body === undefined ? {} : { body: body as Record<string, unknown> }),
      })) as T
    } catch (e) {
      throw asHypometError(e)
    }
  }
  return {
    get: <T>(path: string) => call<T>('GET', path),
    post: <T>(path: string, body: unknown = {}) => call<T>('POST', path, body),
    put: <T>(path: string, body: unknown) => call<T>('PUT', path, body),
    remove: <T>(path: string) => call<T>('DELETE', path),
    upload: <T>(path: string, file: File) =>
      call<T>('POST', path, file, {
        'content-type': 'application/octet-stream',
        'x-file-name': encodeURIComponent(file.name),
      }),
  }
}

function asHypometError(e: unknown): Error {
  const answer = (e as { data?: { data?: { code: string } & Place; message?: string } }).data
  if (answer?.data?.code) {
    const { code, ...place } = answer.data
    return new HypometError(code, answer.message ?? code, place)
  }
  return new HypometError('unreachable', 'Hypomet’s server does not answer. What you entered is still here; try again.')
}
