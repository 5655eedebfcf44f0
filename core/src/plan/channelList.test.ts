import { describe, expect, it } from 'vitest'
import { PROPERTIES, WRITTEN } from '../fixtures/arm'
import { readChannelList, viewPlanOf } from '../index'
import { readyItems } from './ready'

const sensors = [
  { id: 3, name: 'Bridge 12' },
  { id: 4, name: 'Bridge 13' },
]
const read = (text: string, taken: string[] = []) => readChannelList(text, { taken, sensors })

describe('a list of channels', () => {
  it('is understood by its heading, in any order, whatever sets its cells apart', () => {
    for (const sep of ['\t', ';', ',']) {
      const rows = [
        ['Unit', 'Name', 'Sensor', 'Location', 'Sample rate', 'Expected', 'Redundant to'],
        ['µε', 'Root, top', 'bridge 12', 'Frame 4', '100', '950', 'Root, under'],
        ['µε', 'Root, under', 'Bridge 13', 'Frame 4', '0.5 kHz', '', ''],
        ['mm', 'Tip', '', 'Frame 9', '', '12.5 cm', ''],
      ]
      const quoted = rows.map(r => r.map(c => (c.includes(sep) ? `"${c}"` : c)).join(sep)).join('\r\n')
      const { channels, problems, columns } = read(quoted)
      expect(problems).toEqual([])
      expect(columns).toMatchObject({ label: 'Name', rate: 'Sample rate', place: 'Location' })
      expect(channels).toEqual([
        {
          role: 'Root_top',
          label: 'Root, top',
          kind: 'strain',
          place: 'Frame 4',
          sensorId: 3,
          rate: 100,
          expected: { value: 950, unit: 'µε' },
          twin: 'Root_under',
        },
        { role: 'Root_under', label: 'Root, under', kind: 'strain', place: 'Frame 4', sensorId: 4, rate: 500 },
        {
          role: 'Tip',
          label: 'Tip',
          kind: 'length',
          place: 'Frame 9',
          sensorId: null,
          expected: { value: 12.5, unit: 'cm' },
        },
      ])
    }
  })

  it('without a heading is name, place, sensor, rate, unit; names that are there, or come twice, are counted', () => {
    const { channels, problems } = read('SG1\tRib 1\tBridge 12\t20\tµε\nSG1\tRib 2\t\t20\tµε\n4th\tRib 3\t\t\tkN', [
      'SG1',
    ])
    expect(problems).toEqual([])
    expect(channels.map(c => [c.role, c.label, c.kind, c.rate ?? null])).toEqual([
      ['SG1_2', 'SG1', 'strain', 20],
      ['SG1_3', 'SG1', 'strain', 20],
      ['c4th', '4th', 'force', null],
    ])
  })

  it('names by row and column what it does not understand, and takes the rest', () => {
    const { channels, problems } = read(
      'Channel;Unit;Sensor;Rate;Expected;Redundant to;Formula\n' +
        'A;furlong/h;Bridge 99;fast;1,000;Z;a +\n' +
        'B;kN;;100;3 mm;;\n' +
        'C;mm;;1 kHz;;;=2*(B - A)',
    )
    expect(problems.map(p => [p.row, p.column])).toEqual([
      [2, 'Unit'],
      [2, 'Sensor'],
      [2, 'Redundant to'],
      [2, 'Rate'],
      [2, 'Expected'],
      [2, 'Formula'],
      [3, 'Expected'],
    ])
    expect(problems.find(p => p.row === 2 && p.column === 'Expected')!.message).toContain('1,000')
    expect(channels.map(c => [c.label, c.kind, c.rate ?? null, c.expression ?? ''])).toEqual([
      ['A', 'ratio', null, 'a +'],
      ['B', 'force', 100, ''],
      ['C', 'length', 1000, '2*(B - A)'],
    ])
  })

  it('takes nothing for granted: a kind against its unit, a unit without a name, no rate, no unit at all', () => {
    const { channels, problems, plain } = read('Name;Kind;Unit;Rate\nA;force;mm;0\nB;;1/N;-5\nC;;;')
    expect(problems.map(p => [p.row, p.column])).toEqual([
      [2, 'Unit'],
      [2, 'Rate'],
      [3, 'Unit'],
      [3, 'Rate'],
    ])
    expect([channels.map(c => [c.kind, c.rate]), plain]).toEqual([
      [
        ['force', undefined],
        ['ratio', undefined],
        ['ratio', undefined],
      ],
      1,
    ])
  })

  it('of ten thousand is read, and a plan with them is looked over, in one pass each', () => {
    const rows = Array.from({ length: 10_000 }, (_, i) => `SG ${i % 9990}\tRib ${i % 40}\t\t${10 + (i % 3)}\tµε`)
    const { channels } = read(rows.join('\n'))
    expect(new Set(channels.map(c => c.role)).size).toBe(10_000)
    const force = { role: 'load', label: 'Load', kind: 'force', sensorId: null }
    const plan = {
      loading: { kind: 'points', loads: [{ x: 2, share: 1 }] },
      rungs: [
        { target: { value: 0, unit: 'kN' }, hold: { value: 10, unit: 's' } },
        { target: { value: 5, unit: 'kN' }, hold: { value: 10, unit: 's' } },
      ],
      channels: [force, { ...force, role: 'deflection', label: 'Tip', kind: 'length' }, ...channels],
    }
    const viewed = viewPlanOf('static', { ...WRITTEN, ...plan }, PROPERTIES, {})
    const { view } = viewed
    expect(view.channels).toHaveLength(10_002)
    expect(view.channels[2]!.rate).toBe(10)
    expect(view.findings.filter(f => f.code === 'channel-twice')).toEqual([])
    // The checklist goes place by place: forty ribs, each stage of a strain gauge, and one line for what has no sensor.
    const about = { sensors: {}, today: '2026-11-30', released: 1, photos: [], setUp: [] }
    const items = readyItems({ plan: viewed.plan, view, ...about })
    expect(items.length).toBeLessThan(600)
    expect(items.filter(i => i.text.includes('10,000 channels: no sensor chosen'))).toHaveLength(1)
    // The load is still looked at by itself.
    expect(items.some(i => i.key === 'sensor:load')).toBe(true)
    const rib = items.filter(i => i.text.startsWith('Rib 7, 250 channels: '))
    expect(rib.length).toBeGreaterThan(3)
    expect(new Set(items.map(i => i.key)).size).toBe(items.length)
  })
})
