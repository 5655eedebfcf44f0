import { createInterface } from 'node:readline'
import * as z from 'zod'
import { importFile } from './import'
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

const imported = (rest: string[]): Promise<Outcome> =>
  importFile(rest, progress => process.stderr.isTTY && process.stderr.write(`\r${progress}\u001b[K`)).then(
    stdout => ({ exit: 0, stdout, stderr: process.stderr.isTTY ? '\n' : '' }),
    refused,
  )

const args = process.argv.slice(2)
if (args[0] === 'batch') await batch()
else {
  const { exit, stdout, stderr } =
    args[0] === 'import' && !args.includes('--help') && !args.includes('-h') ? await imported(args.slice(1)) : run(args)
  process.stdout.write(stdout)
  process.stderr.write(stderr)
  process.exitCode = exit
}
