import { answeredError, fromRefusal, HypometError, type Refusal } from '@hypomet/core'

/** Where a running Hypomet is. */
export const baseOf = (said: string | undefined): string =>
  (said ?? process.env['HYPOMET_SERVER'] ?? 'http://127.0.0.1:4500').replace(/\/$/, '')

export const unreachable = (base: string): HypometError =>
  new HypometError('unreachable', `No Hypomet answers at ${base}; start it, or name it by --server.`, { path: 'args' })

export type Call = ReturnType<typeof caller>

/** Asks a running Hypomet. @throws HypometError as it says, `unreachable` where none answers */
export function caller(base: string, by = process.env['USER'] ?? 'command line') {
  return async <T>(
    method: 'GET' | 'POST',
    path: string,
    body?: object,
    headers: Record<string, string> = { 'content-type': 'application/json' },
  ): Promise<T> => {
    const isStream = body instanceof ReadableStream
    const response = await fetch(base + path, {
      method,
      headers: { 'x-hypomet-person': encodeURIComponent(by), ...headers },
      ...(body === undefined ? {} : { body: isStream ? body : JSON.stringify(body) }),
      ...(isStream ? { duplex: 'half' } : {}),
    } as RequestInit).catch(() => null)
    if (!response) throw unreachable(base)
    const answer = (await response.json()) as T & { message?: string }
    if (response.ok) return answer
    throw answeredError(answer, 'The server refused.')
  }
}

/** Follows a job to its end. @throws HypometError as it was refused */
export async function jobAtEnd<T>(call: Call, jobId: number, say: (progress: string) => void): Promise<T> {
  for (;;) {
    const job = await call<{
      status: string
      progress: number
      doing: string
      result: T | null
      error: Refusal | null
    }>('GET', `/api/jobs/${jobId}`)
    if (job.status === 'done') return job.result!
    if (job.status !== 'running') throw fromRefusal(job.error!)
    say(`${Math.round(job.progress * 100)} % ${job.doing}`)
    await new Promise(resolve => setTimeout(resolve, 100))
  }
}
