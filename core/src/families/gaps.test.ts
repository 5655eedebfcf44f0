import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readTable } from '../formats/readTable'
import { siUnitOf } from '../quantity/index'
import {
  families,
  isHypometError,
  reduceRecord,
  resolveChannels,
  runReduce,
  type MethodOutput,
  type Setup,
} from '../index'

const FOLDER = join(import.meta.dirname, '../../reference')
const reading = (name: string) => ({
  setup: JSON.parse(readFileSync(join(FOLDER, name, 'setup.json'), 'utf8')) as Setup,
  lines: readFileSync(join(FOLDER, name, 'data.csv'), 'utf8').split(/\r?\n/),
})
const columnsOf = (setup: Setup) =>
  Object.values(setup.channels as Record<string, { column: string }>).map(c => c.column)

/** A file whose cells of some columns are emptied in some rows. */
function withGaps(name: string, roles: (role: string) => boolean, isGap: (row: number, column: number) => boolean) {
  const { setup, lines } = reading(name)
  const separator = ['\t', ';', ','].find(s => lines.some(l => columnsOf(setup).every(c => l.split(s).includes(c))))!
  const head = lines.findIndex(l => columnsOf(setup).every(c => l.split(separator).includes(c)))
  const header = lines[head]!.split(separator)
  const chosen = Object.entries(setup.channels as Record<string, { column: string }>)
    .filter(([role]) => roles(role))
    .map(([, c]) => header.indexOf(c.column))
  const rows = lines.map((line, row) => {
    // A row of units stays.
    if (row <= head || line === '' || !/\d/.test(line)) return line
    return line
      .split(separator)
      .map((cell, column) => (chosen.includes(column) && isGap(row, column) ? '' : cell))
      .join(separator)
  })
  return { setup, bytes: Buffer.from(rows.join('\n')) }
}

/** Figures of a record with gaps: each is drawn, and holds no NaN. */
function figuresOf(setup: Setup, bytes: Uint8Array, name: string) {
  const id = setup.family as string
  const family = families[id]!
  const settings = family.settings.parse(setup.settings) as never
  const mappings = resolveChannels((family.rolesOf?.(settings) ?? family.roles)!, setup.channels)
  const { numbers, text, rows } = readTable(bytes, mappings)
  const labels = Object.fromEntries(Object.entries(text).map(([role, words]) => [role, [...new Set(words)]]))
  const codes = Object.entries(text).map(([role, words]) => [
    role,
    Float64Array.from(words, w => labels[role]!.indexOf(w)),
  ])
  const record = {
    columns: {
      t: Float64Array.from(rows, (_, i) => i),
      ...numbers,
      ...(Object.fromEntries(codes) as Record<string, Float64Array>),
    },
    units: unitsOf(mappings),
    labels,
    hasClock: 't' in numbers,
    name,
  }
  const { figures } = reduceRecord(id, record, setup.settings as Record<string, unknown>, {
    plan: null,
    view: null,
    sensors: {},
  })
  for (const [key, { series }] of Object.entries(figures))
    for (const { x, y } of series)
      expect(
        [...x, ...y].some(v => Number.isNaN(v)),
        `${name}: ${key}`,
      ).toBe(false)
}

const unitsOf = (mappings: ReturnType<typeof resolveChannels>) =>
  Object.fromEntries(mappings.flatMap(m => (m.unit ? [[m.role, siUnitOf(m.unit.dimension)]] : [])))

const value = (r: MethodOutput, key: string) => r.results[key]?.value

describe('results stand alone', () => {
  // What is read on the first role alone must not change, whatever the second one lacks.
  it.each([
    ['pull-01', 'displacement', ['peakForce', 'timeAtPeak', 'broke', 'retained', 'loadingRate']],
    ['static-01', 'deflection', ['maxLoad', 'loadFactor']],
    ['torque-02', 'twist', ['ultimateTorque', 'factor']],
    ['burst-01', 'temperature', ['burstPressure', 'burstFactor', 'margin', 'hoopLineLoad', 'axialLineLoad']],
    ['descent-01', 'riserForce', ['descentRate', 'dragArea', 'seaLevelRate']],
    ['thermal-01', 'power', ['steadyTemperature', 'timeConstant', 'margin']],
    ['spin-01', 'temperature', ['maxThrust', 'maxElectricalPower', 'maxEfficiency']],
  ])('%s: gaps in %s', (name, role, keys) => {
    const whole = withGaps(
      name,
      () => false,
      () => false,
    )
    const full = runReduce(whole.setup, whole.bytes)
    if (!(role in (whole.setup.channels as object))) return
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 9 }), fc.integer({ min: 0, max: 8 }), (every, first) => {
        const { setup, bytes } = withGaps(
          name,
          r => r === role,
          row => row % every === first % every,
        )
        const some = runReduce(setup, bytes)
        for (const key of keys) expect(value(some, key), key).toBe(value(full, key))
      }),
      { numRuns: 6 },
    )
  })

  it('whatever is missing, a result is a number or null with a word why, and errors are those of the contract', () => {
    const names = readdirSync(FOLDER).filter(n =>
      /^(pull|static|torque|burst|crush|descent|thermal|spin|buckling|flow|coupon|transducer)-0\d$/.test(n),
    )
    const told = { numbers: 0, nulls: 0 }
    for (const name of names) {
      if (!readdirSync(join(FOLDER, name)).includes('data.csv')) continue
      // One cell in five is missing, anywhere but in time, words and what rows are told by.
      const kept = ['t', 'config', 'specimen', 'failure', 'frequency', 'angle', 'lift', 'x', 'y']
      const { setup, bytes } = withGaps(
        name,
        r => !kept.includes(r),
        (row, column) => (row * 31 + column * 17) % 5 === 0,
      )
      let r: MethodOutput
      try {
        r = runReduce(setup, bytes)
        figuresOf(setup, bytes, name)
      } catch (e) {
        expect(isHypometError(e), `${name}: ${String(e)}`).toBe(true)
        continue
      }
      for (const [key, result] of Object.entries(r.results)) {
        if (result.value === null) {
          told.nulls++
          expect(r.warnings.length, `${name} ${key}`).toBeGreaterThan(0)
        } else {
          told.numbers++
          expect(Number.isFinite(result.value), `${name} ${key}`).toBe(true)
        }
      }
    }
    expect(told.numbers).toBeGreaterThan(200)
  })
})

describe('a number that only some results need', () => {
  it.each([
    ['static-01', 'designLoad', ['loadFactor', 'deflectionAtDesign']],
    ['pull-01', 'referenceStrength', ['retained']],
  ])('%s without its %s has all results but those', (name, key, without) => {
    const { setup, lines } = reading(name)
    const bytes = Buffer.from(lines.join('\n'))
    const whole = runReduce(setup, bytes).results
    const { [key]: _, ...settings } = setup.settings as Record<string, unknown>
    const rest = runReduce({ ...setup, settings }, bytes).results
    expect(Object.keys(whole).filter(k => !(k in rest))).toEqual(without)
    for (const [k, r] of Object.entries(rest)) expect(r, k).toEqual(whole[k])
  })
})
