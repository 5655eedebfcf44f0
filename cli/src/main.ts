import { createInterface } from 'node:readline'
import * as z from 'zod'
import { importFile } from './import'
import { isProofsCommand, proofs } from './proofs'
import { refused, run, type Outcome } from './run'

const batchLine = z.object({ id: z.union([z.string(), z.number()]), args: z.array(z.string()) })

/** One process for many calls: a line of JSON in, a line of JSON out, in the same order. */
async function batch(): Promise<void> {
  for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
    if (line.trim() === '') continue
    process.stdout.write(JSON.stringify(answer(line)) + '\n')
  }
}

function answer(line: string) {
  try {
    const { id, args } = batchLine.parse(JSON.parse(line))
    return { id, ...run(args) }
  } catch {
    return {
      id: null,
      exit: 2,
      stdout: '',
      stderr:
        JSON.stringify({ error: { code: 'usage', path: 'args', message: 'A batch line is {"id", "args"}.' } }) + '\n',
    }
  }
}

const tell = (progress: string) => process.stderr.isTTY && process.stderr.write(`\r${progress}\u001b[K`)
/** Where progress stood, a line ends. */
const stderr = process.stderr.isTTY ? '\n' : ''
const imported = (rest: string[]): Promise<Outcome> =>
  importFile(rest, tell).then(stdout => ({ exit: 0 as const, stdout, stderr }), refused)

function called([command, ...rest]: string[]): Promise<Outcome> | Outcome {
  if (rest.includes('--help') || rest.includes('-h')) return run([command!, ...rest])
  if (command === 'import') return imported(rest)
  if (isProofsCommand(command)) return proofs(command, rest, tell).then(o => ({ ...o, stderr }), refused)
  return run(command === undefined ? [] : [command, ...rest])
}

const args = process.argv.slice(2)
if (args[0] === 'batch') await batch()
else {
  const { exit, stdout, stderr: said } = await called(args)
  process.stdout.write(stdout)
  process.stderr.write(said)
  process.exitCode = exit
}
