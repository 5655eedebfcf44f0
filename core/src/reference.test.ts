import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { calcList, familyList, isHypometError, runCalc, runReduce, type MethodOutput, type Setup } from './index'

/** Cases with numbers from an independent implementation. */
const FOLDER = join(import.meta.dirname, '../reference')

/** Have no case here; `calc/*.test.ts` hold them against hand sums and textbooks. */
const ELSEWHERE = ['bar-specimen', 'field-waves', 'trial-matrix', 'tank-plan', 'element-properties']

/** Cases of calculations that are not built yet. */
const WAITING = [
  'bad-model-01',
  'bad-model-02',
  'bar-specimen-01',
  'bar-specimen-02',
  'explain-impedance-01',
  'explain-impedance-02',
  'outline-01',
  'outline-02',
  'piezo-stack-01',
  'piezo-stack-02',
  'shell-classical-01',
  'shell-classical-02',
  'shell-classical-03',
]

interface Expected {
  results?: Record<
    string,
    {
      value: number | null
      unit: string
      rtol: number
      atol: number
      bound?: unknown
      u?: number
      uRtol?: number
      uAtol?: number
    }
  >
  tables?: Record<string, Record<string, unknown>[]>
  warnings?: string[]
  error?: { exit: number; code: string; path?: string }
}

type Tolerance = number | Record<string, number>

const tolerance = (t: Tolerance | undefined, column: string): number =>
  typeof t === 'object' ? (t[column] ?? t['*'] ?? 0) : (t ?? 0)

function agrees(got: unknown, want: unknown, rtol: number, atol: number): boolean {
  if (typeof want !== 'number' || typeof got !== 'number') return got === want
  return Math.abs(got - want) <= Math.max(atol, want === 0 ? 1e-9 : 0) + rtol * Math.abs(want)
}

function misses(output: MethodOutput, expected: Expected): string[] {
  const found: string[] = []
  for (const [key, want] of Object.entries(expected.results ?? {})) {
    const got = output.results[key]
    if (!got || got.unit !== want.unit || !agrees(got.value, want.value, want.rtol, want.atol))
      found.push(`${key}: ${JSON.stringify(got)} for ${want.value} ${want.unit}`)
    else if (want.bound !== undefined && JSON.stringify(got.bound) !== JSON.stringify(want.bound))
      found.push(`${key}: bound ${JSON.stringify(got.bound)}`)
    else if (want.u !== undefined && !agrees(got.u, want.u, want.uRtol ?? want.rtol, want.uAtol ?? want.atol))
      found.push(`${key}: u ${got.u} for ${want.u}`)
  }
  for (const [name, rows] of Object.entries(expected.tables ?? {})) {
    const columns = output.tables[name]?.columns ?? {}
    const rowCount = Object.values(columns)[0]?.length ?? 0
    if (rows.length > 0 && rows.every(r => r['rowIndex'] === undefined) && rowCount !== rows.length)
      found.push(`${name}: ${rowCount} rows for ${rows.length}`)
    rows.forEach((row, i) => {
      const { rowIndex, rtol, atol, ...cells } = row as Record<string, unknown> & {
        rowIndex?: number
        rtol?: Tolerance
        atol?: Tolerance
      }
      for (const [column, want] of Object.entries(cells)) {
        const got = columns[column]?.[rowIndex ?? i]
        if (!agrees(got, want, tolerance(rtol, column), tolerance(atol, column)))
          found.push(`${name}[${rowIndex ?? i}].${column}: ${String(got)} for ${String(want)}`)
      }
    })
  }
  for (const code of expected.warnings ?? [])
    if (!output.warnings.some(w => w.code === code)) found.push(`warning ${code} is missing`)
  return found
}

const readJson = <T>(path: string): T => JSON.parse(readFileSync(path, 'utf8')) as T
const cases = readdirSync(FOLDER)
  .filter(c => existsSync(join(FOLDER, c, 'setup.json')) && !WAITING.includes(c))
  .sort()

describe('reference cases', () => {
  it('are there', () => expect(cases.length).toBeGreaterThanOrEqual(98))

  it.each(cases)('%s', name => {
    const at = (file: string) => join(FOLDER, name, file)
    const setup = readJson<Setup>(at('setup.json'))
    const expected = readJson<Expected>(at('expected.json'))
    const data = existsSync(at('data.csv')) ? readFileSync(at('data.csv')) : null
    const run = () => (setup.family ? runReduce(setup, data) : runCalc(setup, data))
    if (!expected.error) return expect(misses(run(), expected)).toEqual([])
    try {
      run()
    } catch (e) {
      if (!isHypometError(e)) throw e
      return expect({ code: e.code, path: e.place.path }).toMatchObject({
        code: expected.error.code,
        ...(expected.error.path ? { path: expected.error.path } : {}),
      })
    }
    expect.unreachable(`expected error ${expected.error.code}`)
  })

  it('cover every kind of test and every calculation by its id', () => {
    const setups = cases.map(c => readJson<Setup>(join(FOLDER, c, 'setup.json')))
    const covered = new Set(setups.flatMap(s => [s.family, s.calc]).filter(Boolean))
    const missing = [...familyList.map(f => f.id), ...calcList.map(c => c.id)].filter(id => !covered.has(id))
    expect(missing).toEqual(ELSEWHERE)
  })
})
