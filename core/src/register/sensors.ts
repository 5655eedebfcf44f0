import { quantity, type QuantityInput } from '../method/settings'
import { KINDS, type Kind } from '../quantity/index'
import type { SensorSpecification } from '../uncertainty/sensor'
import { HypometError } from '../error'
import type { Row } from './field'
import { defineRegister } from './register'

export const SENSOR_KINDS: { value: Kind; label: string }[] = [
  { value: 'force', label: 'Force' },
  { value: 'length', label: 'Displacement' },
  { value: 'strain', label: 'Strain' },
  { value: 'pressure', label: 'Pressure' },
  { value: 'acceleration', label: 'Acceleration' },
  { value: 'temperature', label: 'Temperature' },
  { value: 'torque', label: 'Torque' },
  { value: 'angle', label: 'Angle' },
  { value: 'rotation', label: 'Speed of rotation' },
  { value: 'velocity', label: 'Velocity' },
  { value: 'voltage', label: 'Voltage' },
  { value: 'current', label: 'Current' },
  { value: 'power', label: 'Power' },
  { value: 'volumeFlow', label: 'Flow' },
  { value: 'mass', label: 'Mass' },
  { value: 'frequency', label: 'Frequency' },
  { value: 'resistance', label: 'Resistance or impedance' },
  { value: 'level', label: 'Level' },
  { value: 'ratio', label: 'Share or set-point' },
]

const kindOfSensor = (row: Row): Kind | null =>
  typeof row['kind'] === 'string' && row['kind'] in KINDS ? (row['kind'] as Kind) : null
const ofFullScale = { type: 'quantity', kind: 'ratio', unit: '%', min: 0, hint: '± share of full scale' } as const

/** Sensors with what the range check, the uncertainty and the checklist need of them. */
export const sensorRegister = defineRegister({
  id: 'sensor',
  one: 'Sensor',
  many: 'Sensors',
  perCampaign: false,
  name: 'name',
  fields: [
    { key: 'name', title: 'Sensor', type: 'text', required: true },
    { key: 'kind', title: 'Measures', type: 'choice', required: true, options: SENSOR_KINDS },
    { key: 'serial', title: 'Serial no.', type: 'text' },
    { key: 'fullScale', title: 'Full scale', type: 'quantity', required: true, positive: true, kind: kindOfSensor },
    { key: 'sensitivity', title: 'Sensitivity', type: 'text', aside: true, hint: 'As on the certificate: 2.004 mV/V' },
    { key: 'calibrationU', title: 'Calibration U', type: 'quantity', kind: kindOfSensor, min: 0 },
    { key: 'calibrationK', title: 'k', type: 'number', aside: true, min: 0.5, max: 10, fallback: 2 },
    { key: 'linearity', title: 'Linearity', ...ofFullScale },
    { key: 'hysteresis', title: 'Hysteresis', ...ofFullScale },
    { key: 'repeatability', title: 'Repeatability', ...ofFullScale },
    { key: 'resolution', title: 'Resolution', type: 'quantity', kind: kindOfSensor, min: 0 },
    { key: 'temperatureZero', title: 'Zero, share of full scale per K', type: 'number', min: 0, max: 1, aside: true },
    { key: 'temperatureSpan', title: 'Span, share of reading per K', type: 'number', min: 0, max: 1, aside: true },
    { key: 'deltaT', title: 'Temperature change allowed for, K', type: 'number', min: 0, max: 500, aside: true },
    { key: 'calibratedOn', title: 'Calibrated', type: 'date' },
    { key: 'calibrationDue', title: 'Calibration due', type: 'date' },
    { key: 'place', title: 'Kept at', type: 'text' },
    {
      key: 'state',
      title: 'State',
      type: 'choice',
      fallback: 'in-use',
      options: [
        { value: 'in-use', label: 'In use' },
        { value: 'suspect', label: 'Suspect' },
        { value: 'retired', label: 'Retired' },
      ],
    },
    { key: 'note', title: 'Note', type: 'text', aside: true },
  ],
  check(row) {
    if (row['calibratedOn'] && row['calibrationDue'] && row['calibratedOn'] > row['calibrationDue'])
      throw new HypometError('setting-range', 'The next calibration is due before the last one was made.', {
        path: 'calibrationDue',
      })
  },
})

/** What uncertainty and range checks read of a sensor, SI. */
export function sensorSpecificationOf(row: Row): SensorSpecification {
  const kind = row['kind'] as Kind
  const read = (key: string, as: Kind) =>
    row[key] === null || row[key] === undefined ? undefined : quantity(as).parse(row[key] as QuantityInput)
  const plain = (key: string) => (row[key] as number | null | undefined) ?? undefined
  const U = widthOf(row['calibrationU'], kind)
  const given = {
    ...(U === undefined ? {} : { certificate: { U, k: plain('calibrationK') ?? 2 } }),
    linearity: read('linearity', 'ratio'),
    hysteresis: read('hysteresis', 'ratio'),
    repeatability: read('repeatability', 'ratio'),
    resolution: widthOf(row['resolution'], kind),
    temperatureZero: plain('temperatureZero'),
    temperatureSpan: plain('temperatureSpan'),
    deltaT: plain('deltaT'),
  }
  return {
    fullScale: quantity(kind, { positive: true }).parse(row['fullScale']),
    ...Object.fromEntries(Object.entries(given).filter(([, v]) => v !== undefined)),
  }
}

/** A width in degrees Celsius is one in kelvin: the zero of the scale does not count. */
function widthOf(entered: unknown, kind: Kind): number | undefined {
  if (entered === null || entered === undefined) return undefined
  const si = quantity(kind).parse(entered as QuantityInput)
  return kind === 'temperature' && typeof entered === 'object'
    ? si - quantity(kind).parse({ value: 0, unit: (entered as { unit: string }).unit })
    : si
}
