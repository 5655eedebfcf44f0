import { readFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import {
  calcList,
  calcs,
  HypometError,
  isHypometError,
  familyList,
  families,
  runCalc,
  runReduce,
  type Setup,
} from '@hypomet/core'
import * as z from 'zod'
import { version as VERSION } from '../../package.json'
import { IMPORT_USAGE } from './import'
import { PROOFS_USAGE } from './proofs'

export interface Outcome {
  exit: 0 | 2 | 3
  stdout: string
  stderr: string
}

const USAGE = `Usage:
  hypomet reduce setup.json --data data.csv   one reduction, JSON on stdout; --data - reads what is piped in
  hypomet calc setup.json [--data data.csv]   one calculation
  hypomet methods [name]                      the list, or one method's setup as JSON Schema
${IMPORT_USAGE}${PROOFS_USAGE}  hypomet batch                               lines of {"id","args"} in,
                                              lines of {"id","exit","stdout","stderr"} out
`

/** One call of the command. Never throws: whatever goes wrong is a line of JSON on stderr with exit code 2. */
export function run(args: string[]): Outcome {
  try {
    return { exit: 0, stdout: dispatch(args), stderr: '' }
  } catch (e) {
    return refused(e)
  }
}

/** A refusal as a line of JSON on stderr. */
export function refused(e: unknown): Outcome {
  if (!isHypometError(e)) throw e
  const { path, row, column } = e.place
  const error = {
    code: e.code,
    path: path ?? '',
    message: e.message,
    ...(row ? { row } : {}),
    ...(column ? { column } : {}),
  }
  return { exit: 2, stdout: '', stderr: JSON.stringify({ error }) + '\n' }
}

function dispatch(args: string[]): string {
  const [command, ...rest] = args
  if (rest.includes('--help') || rest.includes('-h')) return USAGE
  const { values, positionals } = parseOptions(rest)
  switch (command) {
    case 'reduce':
      return print(runReduce(readSetup(positionals[0]), values.data === undefined ? null : readBytes(values.data)))
    case 'calc':
      return print(runCalc(readSetup(positionals[0]), values.data === undefined ? null : readBytes(values.data)))
    case 'methods':
      return positionals[0] === undefined ? listMethods() : describeMethod(positionals[0])
    case undefined:
    case 'help':
    case '--help':
    case '-h':
      return USAGE
    case '--version':
    case 'version':
      return `${VERSION}\n`
    default:
      throw new HypometError('usage', `There is no command “${command}”. ${USAGE}`, { path: 'args' })
  }
}

function parseOptions(rest: string[]) {
  try {
    return parseArgs({ args: rest, options: { data: { type: 'string' } }, allowPositionals: true })
  } catch (e) {
    throw new HypometError('usage', `${(e as Error).message}\n${USAGE}`, { path: 'args' })
  }
}

const print = (value: unknown): string => JSON.stringify(value, null, 1) + '\n'

function readSetup(path: string | undefined): Setup {
  if (path === undefined) throw new HypometError('usage', `A setup file is needed. ${USAGE}`, { path: 'args' })
  try {
    const setup: unknown = JSON.parse(new TextDecoder().decode(readBytes(path)))
    if (typeof setup === 'object' && setup !== null && !Array.isArray(setup)) return setup
  } catch (e) {
    if (isHypometError(e)) throw e
  }
  throw new HypometError('setup-format', `“${path}” is not a JSON object.`, { path: 'setup', file: path })
}

/** A file, or what is piped in. */
function readBytes(path: string): Uint8Array {
  try {
    return readFileSync(path === '-' ? 0 : path)
  } catch {
    throw new HypometError('file-missing', `“${path}” cannot be read.`, { path: 'args', file: path })
  }
}

function listMethods(): string {
  const line = (m: { id: string; title: string; purpose: string; version: string }, kind: string) => ({
    name: m.id,
    kind,
    title: m.title,
    purpose: m.purpose,
    version: m.version,
  })
  return print([...familyList.map(f => line(f, 'family')), ...calcList.map(c => line(c, 'calc'))])
}

/** JSON Schema of a whole setup: settings, and for a family its channels. */
function describeMethod(name: string): string {
  const method = families[name] ?? calcs[name]
  if (!method) throw new HypometError('unknown-method', `There is no method “${name}”.`, { path: 'args' })
  const settings = z.toJSONSchema(method.settings, { io: 'input', unrepresentable: 'any' })
  const kind = 'reduce' in method ? 'family' : 'calc'
  const properties: Record<string, unknown> = { [kind]: { const: method.id }, settings }
  const required = [kind, 'settings']
  if (method.roles) {
    const entry = {
      type: 'object',
      required: ['column'],
      properties: { column: { type: 'string' }, unit: { type: 'string' }, scale: { type: 'number', default: 1 } },
    }
    const named = Object.entries(method.roles).filter(([role]) => role !== '*')
    properties['channels'] = {
      type: 'object',
      properties: Object.fromEntries(named.map(([role, r]) => [role, { ...entry, title: r.label, kind: r.kind }])),
      required: named.filter(([, r]) => !r.optional).map(([role]) => role),
      additionalProperties: '*' in method.roles ? entry : false,
    }
    required.push('channels')
  }
  return print({
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: method.title,
    description: method.purpose,
    type: 'object',
    properties,
    required,
  })
}
