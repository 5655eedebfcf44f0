import { describe, expect, it } from 'vitest'
import type { RecordChannel, RecordPage } from '../../types/api'
import { grouped, placeOf } from './channelGroups'

const channel = (name: string, more: Partial<RecordChannel> = {}) =>
  ({
    id: name.length,
    name,
    role: name,
    expression: null,
    x: null,
    unit: 'N',
    health: [],
    datasetId: 1,
    ...more,
  }) as unknown as RecordChannel
const records = [
  { id: 1, name: 'slow' },
  { id: 2, name: 'fast' },
] as unknown as RecordPage['records']

describe('channels under headings', () => {
  it('sit where they were planned, or where their name says before its number', () => {
    expect(placeOf(channel('Wing L / SG-012 [µε]'))).toBe('Wing L / SG')
    expect(placeOf(channel('CH12'))).toBe('CH')
    expect(placeOf(channel('R3_C'))).toBe('R')
    expect(placeOf(channel('Load'))).toBe('No place given')
    expect(placeOf(channel('CH12', { x: 0.15000001 }))).toBe('x = 0.15 m')
    expect(placeOf(channel('half', { expression: 'a/2' }))).toBe('Derived')
  })

  it('come in the order in which they first do, counted, with flags, and can be folded', () => {
    const all = [channel('A1'), channel('B1', { datasetId: 2, health: [{ code: 'gap', message: '' }] }), channel('A2')]
    const names = (rows: ReturnType<typeof grouped>) =>
      rows.map(r => ('group' in r ? `${r.group} ${r.size}/${r.flagged}` : r.channel.name))
    expect(names(grouped(all, 'none', () => '', records, new Set()))).toEqual(['A1', 'B1', 'A2'])
    expect(names(grouped(all, 'place', () => '', records, new Set()))).toEqual(['A 2/0', 'A1', 'A2', 'B 1/1', 'B1'])
    expect(names(grouped(all, 'place', () => '', records, new Set(['A'])))).toEqual(['A 2/0', 'B 1/1', 'B1'])
    expect(names(grouped(all, 'logger', () => '', records, new Set(['slow', 'fast'])))).toEqual([
      'slow 2/0',
      'fast 1/1',
    ])
    expect(names(grouped(all, 'kind', c => c.unit, records, new Set(['N'])))).toEqual(['N 3/1'])
  })
})
