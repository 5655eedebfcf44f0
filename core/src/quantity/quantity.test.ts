import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  columnFormatter,
  findUnit,
  formatQuantity,
  fromSi,
  HypometError,
  IMPERIAL,
  kindOfSi,
  KINDS,
  METRIC,
  parseQuantity,
  preferredUnit,
  quantityToSi,
  toSi,
  unitFor,
  type Kind,
} from '../index'

const si = (value: number, unit: string, kind: Kind) => quantityToSi({ value, unit }, kind)

/** Units the contract lists at least, by kind. */
const LISTED: Partial<Record<Kind, string>> = {
  force: 'N kN MN lbf kip kgf',
  length: 'm mm cm µm km in ft',
  area: 'm² mm² cm² in² ft²',
  volume: 'm³ L mL cm³ mm³ in³ ft³',
  mass: 'kg g t lb',
  time: 's ms µs min h d',
  pressure: 'Pa kPa MPa GPa bar mbar hPa psi ksi inHg inH2O mmH2O kg/cm² Msi',
  angle: 'rad mrad deg °',
  rotation: 'rad/s rpm Hz 1/min',
  velocity: 'm/s mm/s km/h ft/s ft/min kn',
  acceleration: 'm/s² g ft/s²',
  torque: 'N·m kN·m N·mm in·lbf ft·lbf',
  energy: 'J kJ MJ ft·lbf in·lbf',
  power: 'W kW mW',
  voltage: 'V mV kV',
  current: 'A mA',
  resistance: 'ohm kohm mohm Mohm',
  capacitance: 'F µF nF pF',
  frequency: 'Hz kHz MHz 1/s',
  ratio: '1 % µε mm/m m/m',
  volumeFlow: 'm³/s cfm m³/h L/s L/min',
  density: 'kg/m³ g/cm³ lb/in³',
  massPerLength: 'kg/m g/m lb/ft',
  loadPerLength: 'N/m kN/m N/mm lbf/in lbf/ft',
  stiffness: 'N/m kN/m N/mm kN/mm lbf/in',
  specificEnergy: 'J/kg kJ/kg J/g',
  inertia: 'kg·m² g·cm²',
  bendingStiffness: 'N·m² kN·m²',
  accelerationDensity: 'm²/s³ g²/Hz (m/s²)²/Hz',
  viscosity: 'Pa·s mPa·s',
  sweepRate: '1/s oct/s oct/min',
  leakRate: '1/s %/h',
  perKelvin: '1/K %/K',
  level: 'dB',
  bytes: 'B kB MB GB TB',
  byteRate: 'B/s kB/s MB/s GB/s',
  temperature: 'K °C °F',
}

describe('units', () => {
  it('knows every unit of the contract in its kind', () => {
    for (const [kind, units] of Object.entries(LISTED))
      for (const unit of units.split(' ')) expect(() => unitFor(unit, kind as Kind), `${unit} as ${kind}`).not.toThrow()
  })

  it('converts by the exact factors', () => {
    expect(si(1, 'lbf', 'force')).toBe(4.4482216152605)
    expect(si(1, 'psi', 'pressure')).toBe(6894.757293168361)
    expect(si(1, 'inH2O', 'pressure')).toBe(249.08891)
    expect(si(1, 'cfm', 'volumeFlow')).toBe(4.719474432e-4)
    expect(si(1, 'kg/cm2', 'pressure')).toBeCloseTo(98066.5, 9)
    expect(si(60, 'rpm', 'rotation')).toBeCloseTo(2 * Math.PI, 14)
    expect(si(1, 'Hz', 'rotation')).toBeCloseTo(2 * Math.PI, 14)
    expect(si(1, 'kn', 'velocity')).toBeCloseTo(1852 / 3600, 15)
    expect(si(1, 'lb/in³', 'density')).toBeCloseTo(27679.904710203125, 8)
    expect(si(1, 'g²/Hz', 'accelerationDensity')).toBeCloseTo(9.80665 ** 2, 10)
    expect(si(-40, '°F', 'temperature')).toBeCloseTo(233.15, 10)
    expect(si(20, 'degC', 'temperature')).toBeCloseTo(293.15, 12)
  })

  it('takes the typed forms for the signs', () => {
    for (const [typed, sign] of [
      ['m2', 'm²'],
      ['ue', 'µε'],
      ['um', 'µm'],
      ['deg', '°'],
      ['degC', '°C'],
      ['Ohm', 'ohm'],
      ['in-lbf', 'in·lbf'],
      ['lbf·in', 'in·lbf'],
      ['ft-lbf', 'ft·lbf'],
      ['Nm', 'N·m'],
      ['RPM', 'rpm'],
      ['CFM', 'cfm'],
    ] as const)
      expect(findUnit(typed), typed).toEqual(findUnit(sign))
  })

  it('reads g as the gram for a mass and as gravity for an acceleration', () => {
    expect(si(2500, 'g', 'mass')).toBe(2.5)
    expect(si(2, 'g', 'acceleration')).toBe(2 * 9.80665)
  })

  it('tells a unit nobody knows from one of another dimension', () => {
    const code = (unit: string, kind: Kind) => {
      try {
        return void unitFor(unit, kind)
      } catch (e) {
        return (e as HypometError).code
      }
    }
    expect(code('furlong', 'length')).toBe('unit-unknown')
    expect(code('KN', 'force')).toBe('unit-unknown')
    expect(code('mm', 'force')).toBe('unit-dimension')
    expect(code('%', 'angle')).toBe('unit-dimension')
  })

  it('comes back as it was entered', () => {
    for (const [value, unit, kind] of [
      [3.2, 'mm', 'length'],
      [850, 'lbf', 'force'],
      [0.1, 'in', 'length'],
      [12.7, 'kN', 'force'],
      [1500, 'µε', 'ratio'],
    ] as const) {
      const u = unitFor(unit, kind)
      expect(fromSi(toSi(value, u), u)).toBe(value)
    }
  })
})

describe('any number in any unit', () => {
  const unitOfKind = fc.constantFrom(
    ...Object.entries(LISTED).flatMap(([kind, units]) => units.split(' ').map(unit => [kind as Kind, unit] as const)),
  )
  const number = fc.double({ min: -1e12, max: 1e12, noNaN: true }).filter(v => v === 0 || Math.abs(v) > 1e-200)

  it('goes to SI and back within two units in the last place of what is added up', () => {
    fc.assert(
      fc.property(unitOfKind, number, ([kind, unit], value) => {
        const u = unitFor(unit, kind)
        const back = fromSi(toSi(value, u), u)
        return Math.abs(back - value) <= 4 * Number.EPSILON * (Math.abs(value) + Math.abs(u.shift))
      }),
    )
  })

  it('is read back from what was written', () => {
    fc.assert(
      fc.property(unitOfKind, number, ([kind, unit], value) => {
        const read = parseQuantity(`${value} ${unit}`, kind)
        return Object.is(read.value, value) || (read.value === 0 && value === 0)
      }),
    )
  })

  it('is written without NaN or infinity', () => {
    fc.assert(
      fc.property(
        unitOfKind,
        fc.double(),
        ([kind], value) =>
          !/NaN|Infinity/.test(formatQuantity(value, kind, { prefer: METRIC, U: Math.abs(value) / 50 })),
      ),
    )
  })
})

describe('typed quantities', () => {
  it.each([
    ['850 lbf', 'force', { value: 850, unit: 'lbf' }],
    ['3,2 kN', 'force', { value: 3.2, unit: 'kN' }],
    ['12 in H2O', 'pressure', { value: 12, unit: 'inH2O' }],
    ['3.2e-3 in', 'length', { value: 0.0032, unit: 'in' }],
    ['1500 µε', 'ratio', { value: 1500, unit: 'µε' }],
    ['−4', 'length', { value: -4, unit: 'm' }],
  ] as const)('“%s” as %s', (text, kind, wanted) => expect(parseQuantity(text, kind)).toEqual(wanted))

  it('says what is wrong with the rest', () => {
    expect(() => parseQuantity('heavy', 'force')).toThrow(/does not begin with a number/)
    expect(() => parseQuantity('4 mm', 'force')).toThrow(/not a unit of force/)
  })
})

describe('written quantities', () => {
  it('gives two digits of the uncertainty and the value to the same place', () => {
    expect(formatQuantity(4321.7, 'force', { prefer: METRIC, U: 38 })).toBe('4.322 ±\u202f0.038\u202fkN')
    expect(formatQuantity(0.0894, 'length', { prefer: METRIC, U: 0.00053 })).toBe('89.40 ±\u202f0.53\u202fmm')
    expect(formatQuantity(4448.2216152605, 'force', { prefer: IMPERIAL })).toBe('1000\u202flbf')
  })

  it('never shows what is not a number', () => {
    for (const nothing of [NaN, Infinity, null, undefined]) expect(formatQuantity(nothing, 'force')).toBe('–')
  })

  it('reads a modulus in the larger unit, and gives a column one number of decimals', () => {
    expect(formatQuantity(58e9, 'pressure', { prefer: METRIC, digits: 3 })).toBe('58.0\u202fGPa')
    const write = columnFormatter([5605.5, 0.4], 'force', { prefer: METRIC })
    expect([write(5605.5), write(0.4), write(-0.2), write(null)]).toEqual([
      '5.606\u202fkN',
      '0.000\u202fkN',
      '0.000\u202fkN',
      '–',
    ])
  })

  it('has an SI name for every kind that means itself', () => {
    for (const [kind, { si: name }] of Object.entries(KINDS))
      expect(quantityToSi({ value: 3, unit: name }, kind as Kind), kind).toBe(3)
  })
})

it('a unit that is not SI has no kind: 20.5 working days are not 20.5 seconds', () => {
  expect([kindOfSi('d'), kindOfSi('s'), kindOfSi('N·m'), kindOfSi('m²/s²'), kindOfSi('kN')]).toEqual([
    null,
    'time',
    'torque',
    'specificEnergy',
    null,
  ])
})

describe('what a campaign reads in', () => {
  it.each([METRIC, IMPERIAL])('is a unit of its kind, and reads back', prefer => {
    for (const kind of Object.keys(KINDS) as Kind[]) {
      const unit = preferredUnit(kind, { prefer })
      expect(unitFor(unit, kind).shift === 0 || kind === 'temperature', kind).toBe(true)
      const typed = parseQuantity(formatQuantity(12.5, kind, { prefer, digits: 12 }).replace('\u202f', ' '), kind, unit)
      expect(quantityToSi(typed, kind), kind).toBeCloseTo(12.5, 6)
    }
  })
  it('leaves no metric unit of force or length in an imperial campaign', () => {
    const shown = (Object.keys(KINDS) as Kind[]).map(kind => preferredUnit(kind, { prefer: IMPERIAL }))
    const metric = shown.filter(u => /\bk?N\b|\bmm\b|^m$|\bkg\b/.test(u))
    expect(metric).toEqual([])
  })
})
