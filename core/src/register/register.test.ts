import { describe, expect, test } from 'vitest'
import { METRIC } from '../quantity/index'
import { familyOutlines } from '../registry/catalogue'
import { limitsOfRevision } from '../judge/inherit'
import { checkFacts, readFact } from './facts'
import { refusal } from '../fixtures/refusal'
import { checkCell, readCell, writeCell, type RegisterContext } from './field'
import { predictedValue, predictionRegister } from './predictions'
import { firingReasons } from './lessonMatch'
import { limitRegister, limitWall } from './limits'
import { constantRegister, siOfConstant } from './constants'
import { checkRow, readRows, writeRows } from './register'
import { sensorRegister, sensorSpecificationOf } from './sensors'
import { revisionRegister } from './things'

const context: RegisterContext = {
  prefer: METRIC,
  families: familyOutlines,
  refs: {
    article: [
      { id: 1, label: 'Hanger arm', family: 'static' },
      { id: 2, label: 'Haul strop', family: 'pull' },
    ],
    revision: [
      { id: 11, label: 'Hanger arm B', articleId: 1 },
      { id: 21, label: 'Haul strop A', articleId: 2 },
    ],
  },
}
const base = {
  articleId: 1,
  quantity: 'deflectionAtDesign',
  name: 'Service deflection',
  comparator: 'atMost',
  entered: { value: 14, unit: 'mm' },
}

describe('limits', () => {
  test('a factor moves the wall away from what must not be reached', () => {
    expect(limitWall(checkRow(limitRegister, { ...base, factor: 1.4 }, context), context)).toBeCloseTo(0.01, 15)
    const load = {
      articleId: 1,
      quantity: 'maxLoad',
      name: 'Ultimate',
      comparator: 'atLeast',
      entered: { value: 3.2, unit: 'kN' },
      factor: 1.5,
    }
    expect(limitWall(checkRow(limitRegister, load, context), context)).toBeCloseTo(4800, 9)
  })

  test.each([
    [{ entered: { value: 14, unit: 'N' } }, 'unit-dimension', 'entered'],
    [{ quantity: 'retained' }, 'setting-range', 'quantity'],
    [{ fromRevisionId: 21 }, 'setting-range', 'fromRevisionId'],
    [{ entered: 0 }, 'setting-range', 'entered'],
    [{ name: ' ' }, 'missing-setting', 'name'],
  ])('%o is refused at its place', (change, code, path) => {
    expect(() => checkRow(limitRegister, { ...base, ...change }, context)).toThrow(
      expect.objectContaining({ code, place: { path } }),
    )
  })

  test('one set for a revision holds from there on, in the place of the inherited one', () => {
    const limit = (id: number, fromRevisionId: number | null, state = 'in-force') => ({
      id,
      quantity: 'stiffness',
      level: 'service',
      comparator: 'atLeast',
      state,
      fromRevisionId,
    })
    const revisions = [
      { id: 1, parentId: null },
      { id: 2, parentId: 1 },
      { id: 3, parentId: 2 },
      { id: 4, parentId: 1 },
    ]
    const of = (r: number) =>
      limitsOfRevision(r, revisions, [limit(7, null), limit(8, 2), limit(9, 3, 'withdrawn')]).map(l => l.id)
    expect([of(1), of(2), of(3), of(4)]).toEqual([[7], [8], [8], [7]])
  })
})

describe('tables of text', () => {
  const sheet = [
    ['Article', 'Result', 'Limit', 'Must be', 'Value', 'Level', 'Source'],
    ['Hanger arm', 'Deflection at design load', 'Service deflection', 'at most', '14 mm', 'Service', 'Platform gap'],
    ['Haul strop', 'Largest force', 'Break', 'at least', '38,5 kN', 'ultimate', ''],
  ]

  test('a sheet of limits is read by its titles, and written back the same', () => {
    const { rows, problems } = readRows(limitRegister, sheet, context)
    expect(problems).toEqual([])
    expect(rows[1]!.values).toMatchObject({
      articleId: 2,
      quantity: 'peakForce',
      entered: { value: 38.5, unit: 'kN' },
      level: 'ultimate',
    })
    const written = writeRows(
      limitRegister,
      rows.map(r => checkRow(limitRegister, r.values, context)),
      context,
    )
    expect(readRows(limitRegister, written, context).rows.map(r => checkRow(limitRegister, r.values, context))).toEqual(
      rows.map(r => checkRow(limitRegister, r.values, context)),
    )
  })

  test('every broken cell is named with its row and column, and a foreign column too', () => {
    const broken = [
      ...sheet,
      ['Hanger arm', 'Permanent set', 'Set', 'at most', '3 N', 'often', ''],
      ['Mast', '', '', '', '', '', ''],
    ]
    expect(
      readRows(limitRegister, [[...sheet[0]!, 'Colour'], ...broken.slice(1)], context).problems.map(p => [
        p.row,
        p.column,
        p.code,
      ]),
    ).toEqual([
      [1, 'Colour', 'unknown-column'],
      [4, 'Value', 'unit-dimension'],
      [4, 'Level', 'setting-range'],
      [5, 'Article', 'unknown-reference'],
    ])
  })

  test('without a header the columns follow from the cell that was pasted into', () => {
    const { rows, hasHeader } = readRows(sensorRegister, [['Cell 9', 'Force', 'S/N 12', '5 kN']], context, {
      from: 'name',
    })
    expect(hasHeader).toBe(false)
    expect(rows[0]!.values).toEqual({
      name: 'Cell 9',
      kind: 'force',
      serial: 'S/N 12',
      fullScale: { value: 5, unit: 'kN' },
    })
    expect(
      readRows(
        sensorRegister,
        [['a', 'Force', '', '5 kN', '', '', '', '', '', '', '', '', '', '', '', '', '', '', '', 'more']],
        context,
      ).problems[0],
    ).toMatchObject({ code: 'ragged-row' })
  })
})

test('a sensor’s row becomes its specification; a calibration U in °C is a width, not a temperature', () => {
  const row = checkRow(
    sensorRegister,
    {
      name: 'Thermocouple',
      kind: 'temperature',
      fullScale: { value: 400, unit: 'degC' },
      calibrationU: { value: 1.5, unit: 'degC' },
      linearity: { value: 0.1, unit: '%' },
    },
    context,
  )
  expect(sensorSpecificationOf(row)).toMatchObject({ fullScale: 673.15, linearity: 0.001, certificate: { k: 2 } })
  expect(sensorSpecificationOf(row).certificate!.U).toBeCloseTo(1.5, 9)
})

test('a constant is what its unit says, and its standard deviation is of the same kind', () => {
  const row = {
    subject: 'Laminate',
    property: 'Modulus',
    entered: { value: 58, unit: 'GPa' },
    spread: { value: 1, unit: 'mm' },
  }
  expect(siOfConstant(row)).toMatchObject({ value: 58e9, kind: 'pressure' })
  expect(() => checkRow(constantRegister, row, context)).toThrow(
    expect.objectContaining({ code: 'unit-dimension', place: { path: 'spread' } }),
  )
})

test('facts are free but typed: a length stays a length', () => {
  const earlier = checkFacts(
    [
      { group: 'Geometry', name: 'Fillet', value: readFact('2 mm') },
      { group: 'Surface', name: 'Finish', value: readFact('turned') },
    ],
    [],
  )
  expect(checkFacts([{ group: 'Geometry', name: 'fillet', value: readFact('0.1 in') }], earlier)).toHaveLength(1)
  expect(() => checkFacts([{ name: 'Fillet', value: readFact('5 kN') }], earlier)).toThrow(
    expect.objectContaining({ code: 'fact-type', place: { path: 'facts.0' } }),
  )
  expect(() => checkFacts([{ name: 'Finish', value: 3 }], earlier)).toThrow(/is a word in another revision/)
})

describe('lessons', () => {
  const plan = {
    family: 'static',
    familyTitle: 'Static load',
    features: ['bonded inserts'],
    fixture: 'Root clamps, radiused jaws',
    method: 'Tree of straps',
    texts: ['Ladder to ultimate load'],
  }
  const none = { families: [], features: [], fixtures: [], methods: [], words: [] }
  test.each([
    [{ fixtures: ['clamp'] }, ['fixture “clamp”']],
    [{ families: ['Static load'], features: ['bonded'] }, ['Static load', 'feature “bonded”']],
    [{ families: ['pull'], fixtures: ['clamp'] }, null],
    [{ words: ['late'] }, null],
    [{}, null],
  ])('%o fires: %o', (triggers, reasons) => expect(firingReasons({ ...none, ...triggers }, plan)).toEqual(reasons))
})

describe('a band', () => {
  const band = predictionRegister.fields.find(f => f.key === 'band')!
  const refs = { revision: [{ id: 1, label: 'A', family: 'static' }] }
  const own = { ...context, refs }
  const row = (quantity: string) => ({ revisionId: 1, quantity, entered: { value: 40, unit: 'kN' } })
  const read = (text: string, quantity = 'maxLoad') => readCell(band, text, row(quantity), own)
  const u = (text: string, quantity = 'maxLoad') => predictedValue({ ...row(quantity), band: read(text) }, own)!.u

  test('is a share or as large as it is, as typed; a bare number is asked about', () => {
    expect(read('± 10 %')).toEqual({ value: 10, unit: '%' })
    expect(read('+/- 3000 lbf')).toEqual({ value: 3000, unit: 'lbf' })
    expect(u('±10 %')).toBeCloseTo(2000, 9)
    expect(u('± 3 kN')).toBeCloseTo(1500, 9)
    expect(refusal(() => read('0.1'))).toMatchObject({ code: 'band-unit', message: expect.stringContaining('± 0.1 %') })
    expect(refusal(() => read('± 3 mm')).code).toBe('unit-dimension')
    expect(refusal(() => read('± 1,000 lbf')).code).toBe('number-ambiguous')
    expect(checkCell(band, read('± 3 kN'), row('maxLoad'), own)).toEqual({ value: 3, unit: 'kN' })
    // Of a ratio, a bare number is as large as it is.
    expect(read('0.1', 'loadFactor')).toEqual({ value: 0.1, unit: '1' })
    expect(writeCell(band, { value: 0.1, unit: '1' }, row('loadFactor'), own)).toBe('0.1')
  })

  test('that is kept as a share is written as it would be typed: 0.12 is 12 %', () => {
    const written = writeCell(band, 0.12, row('maxLoad'), own)
    expect(written).toBe('12 %')
    expect(read(written)).toEqual({ value: 12, unit: '%' })
  })

  test('a size is a column that says its unit: it joins what the revision has, or takes its place', () => {
    const refs = { article: [{ id: 1, label: 'Bag', family: 'burst' }], revision: [], finding: [] }
    const own = { ...context, refs: { ...context.refs, ...refs } } as typeof context
    const kept = [
      { group: 'Geometry', name: 'Radius', value: { value: 210, unit: 'mm' } },
      { group: 'Process', name: 'Seam', value: 'press 1' },
    ]
    const { rows, problems } = readRows(
      revisionRegister,
      [
        ['No.', 'Article', 'Revision', 'radius [mm]', 'Wall thickness (mm)', 'Seam [-]'],
        ['7', 'Bag', 'B', '215', '0.8', 'press 2'],
        ['', 'Bag', 'C', '22 cm', 'thick', ''],
      ],
      own,
      { existing: id => (id === 7 ? { facts: kept } : undefined) },
    )
    expect(rows.map(r => r.values['facts'])).toEqual([
      [
        { group: 'Geometry', name: 'Radius', value: { value: 215, unit: 'mm' } },
        { group: 'Process', name: 'Seam', value: 'press 2' },
        { group: 'Geometry', name: 'Wall thickness', value: { value: 0.8, unit: 'mm' } },
      ],
      [{ group: 'Geometry', name: 'radius', value: { value: 22, unit: 'cm' } }],
    ])
    expect(problems).toMatchObject([{ row: 3, column: 'Wall thickness (mm)', code: 'not-a-number' }])
  })
})
