import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { dayAfter, daysBetween, dayText, isDay, localDay, momentText } from './days'

describe('days', () => {
  const zone = process.env['TZ']
  beforeAll(() => void (process.env['TZ'] = 'Europe/Oslo'))
  afterAll(() => void (zone === undefined ? delete process.env['TZ'] : (process.env['TZ'] = zone)))

  it('are those of the clock on the wall: an hour after midnight it is no longer yesterday', () => {
    expect(localDay(new Date('2026-11-27T23:30:00Z'))).toBe('2026-11-28')
    expect(localDay('2026-11-27T23:30:00.000Z')).toBe('2026-11-28')
    expect(momentText('2026-11-27T23:30:00Z')).toBe('28 Nov 2026, 00:30')
    expect(dayText('2026-11-28')).toBe('28 Nov 2026')
  })

  it('are counted across the nights on which clocks change', () => {
    expect(dayAfter('2026-03-28')).toBe('2026-03-29')
    expect(dayAfter('2026-10-25')).toBe('2026-10-26')
    expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2)
    const day = fc.date({ min: new Date('1990-01-01'), max: new Date('2060-01-01'), noInvalidDate: true }).map(localDay)
    fc.assert(
      fc.property(day, fc.integer({ min: -4000, max: 4000 }), (from, n) => {
        expect(daysBetween(from, dayAfter(from, n))).toBe(n)
      }),
    )
  })

  it('are told from what is none', () => {
    expect(['2026-02-29', '2026-13-01', '26-01-01', '2026-1-1', 'soon'].filter(isDay)).toEqual([])
    expect(isDay('2028-02-29')).toBe(true)
  })
})
