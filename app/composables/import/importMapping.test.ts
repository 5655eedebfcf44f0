import { describe, expect, it } from 'vitest'
import type { FilePreview } from '../../types/api'
import {
  channelsToSend,
  columnsByPattern,
  guessedMapping,
  isUnitKnown,
  mappingProblem,
  type MappedColumn,
} from './importMapping'

const planned = [
  { role: 't', label: 'Time', kind: 'time', sensorId: null },
  { role: 'load', label: 'Load', kind: 'force', sensorId: 1 },
  { role: 'deflection', label: 'Tip', kind: 'length', sensorId: 2 },
]
const preview = {
  about: '',
  columns: [],
  planned,
  guess: { t: { column: 'Zeit', unit: 's' }, load: { column: 'Last' } },
  open: {},
} as unknown as FilePreview['preview']
const mapped = (column: string, unit: string, calibration: MappedColumn['calibration'] = {}): MappedColumn => ({
  column,
  unit,
  calibration,
})

describe('a file’s mapping', () => {
  it('begins as guessed, without the channels that the record has already', () => {
    expect(guessedMapping(preview, [])).toEqual({
      t: mapped('Zeit', 's'),
      load: mapped('Last', ''),
      deflection: mapped('', ''),
    })
    expect(Object.keys(guessedMapping(preview, ['load', 't']))).toEqual(['t', 'deflection'])
  })

  it('asks which of several columns is meant, until one is chosen or none of them is', () => {
    const mapping = guessedMapping({ ...preview, open: { deflection: ['LL1', 'LL5'] } }, [])
    mapping['load']!.unit = 'kN'
    expect(mappingProblem(mapping, NaN)).toBe('“LL1” and “LL5” could be the same channel: say which it is.')
    expect(
      mappingProblem({ ...mapping, deflection: { ...mapping['deflection']!, column: 'LL5', unit: 'mm' } }, NaN),
    ).toBe('')
    delete mapping['deflection']!.open
    expect(mappingProblem(mapping, NaN)).toBe('')
  })

  it('names what is still wrong, one thing at a time', () => {
    const wrong = (m: Record<string, MappedColumn>, rate = NaN) => mappingProblem(m, rate)
    expect(wrong({ t: mapped('', '') })).toMatch('Choose the column of time')
    expect(wrong({ t: mapped('', '') }, 0)).toMatch('Choose the column of time')
    expect(wrong({ t: mapped('', '') }, 250)).toBe('')
    expect(wrong({ t: mapped('Zeit', 's'), load: mapped('Last', '') })).toBe('Give the unit of “Last”.')
    expect(wrong({ t: mapped('Zeit', 's'), load: mapped('Last', 'stone') })).toBe('Give the unit of “Last”.')
    expect(wrong({ t: mapped('Zeit', 's'), load: mapped('Last', 'kN'), deflection: mapped('Last', 'mm') })).toBe(
      '“Last” is chosen twice.',
    )
    // What is not in this file may be in another.
    expect(wrong({ t: mapped('Zeit', 's'), load: mapped('Last', 'kN'), deflection: mapped('', '') })).toBe('')
    expect(['', 'µε', 'g', 'furlong'].map(isUnitKnown)).toEqual([true, true, true, false])
  })

  it('is sent with its calibrations, without what is not there', () => {
    expect(
      channelsToSend({
        t: mapped('Zeit', 's'),
        load: mapped('Last', 'kN', { scale: -2, offset: 0.5 }),
        deflection: mapped('', 'mm'),
      }),
    ).toEqual({ t: { column: 'Zeit', unit: 's' }, load: { column: 'Last', unit: 'kN', scale: -2, offset: 0.5 } })
  })
})

describe('columns by a pattern', () => {
  const names = { g1: 'Gauge 1', g17: 'Gauge 17', tip: 'Tip', g2: 'Rosette 2 b' }
  const columns = ['CH001 [µε]', 'CH0017', 'CH17b', 'Strain tip [ue]', 'ch2', 'CH2']

  it('by a channel’s number whatever its zeros, or by its name; what two columns could be is left open', () => {
    expect(columnsByPattern('ch#', names, columns)).toEqual({ g1: 'CH001 [µε]', g17: 'CH0017' })
    expect(columnsByPattern('Strain *', names, columns)).toEqual({ tip: 'Strain tip [ue]' })
  })

  it('is none without a # or a *', () => expect(columnsByPattern('CH17b', names, columns)).toEqual({}))
})
