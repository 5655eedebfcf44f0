import { fork } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { HypometError } from '@hypomet/core'

/** Whether the sample campaign is there: it is loaded through the same doors as anyone's data, which takes a while. */
export type Sample =
  { state: 'none' } | { state: 'loading' } | { state: 'there'; slug: string } | { state: 'failed'; message: string }

let sample: Sample = { state: 'none' }

export const sampleNow = (): Sample => sample

/**
 * Begins to load the sample campaign, in a process of its own; one at a time.
 *
 * @param base  where this Hypomet answers
 * @throws HypometError `no-sample` where its files are not there
 */
export function loadSample(base: string): Sample {
  if (sample.state === 'loading') return sample
  const [loader, data] = [join('.output', 'demo', 'sample.mjs'), join('demo', 'data')]
  if (!existsSync(loader) || !existsSync(data))
    throw new HypometError('no-sample', 'The sample’s files are not beside this Hypomet; it comes with a clone of it.')
  sample = { state: 'loading' }
  const child = fork(loader, [base, data], { stdio: ['ignore', 'ignore', 'pipe', 'ipc'] })
  let said = ''
  child.stderr!.on('data', (d: Buffer) => (said = (said + d.toString()).slice(-400)))
  child.on('message', ({ slug }: { slug: string }) => (sample = { state: 'there', slug }))
  child.on('exit', () => {
    if (sample.state === 'loading') sample = { state: 'failed', message: said.trim() || 'The loader ended early.' }
  })
  return sample
}
