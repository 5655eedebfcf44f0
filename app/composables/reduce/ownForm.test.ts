import { describe, expect, it } from 'vitest'
import { ownOf } from '@hypomet/core'
import { ownIn } from '../../../core/src/own/own'
import { ownAsked, PLACES, type PlaceKey } from './ownForm'

const typed = (place: PlaceKey, said = '', reads = 'SG4') => ownAsked({ name: 'x', reads, place, said, isZeroed: true })
const at = (place: PlaceKey, said = '') => {
  const made = typed(place, said)
  return 'own' in made ? made.own.at : made.lacks
}

describe('a result of one’s own, as typed', () => {
  it('becomes a setting that the core reads, for every place that is offered', () => {
    for (const { key, example } of PLACES) {
      const made = typed(key, example ?? '')
      if (!('own' in made)) throw new Error(`${key}: ${made.lacks}`)
      expect(ownIn({ own: [made.own] }, [])).toHaveLength(1)
    }
  })
  it('keeps what was meant', () => {
    expect(at('load', '12 kN')).toEqual({ load: { value: 12, unit: 'kN' } })
    expect(at('time', '40')).toEqual({ time: { value: 40, unit: 's' } })
    expect(at('mean', '10 to 20 s')).toEqual({
      mean: [
        { value: 10, unit: 's' },
        { value: 20, unit: 's' },
      ],
    })
    expect(at('slope', 'load')).toEqual({ slope: 'load' })
    expect(typed('peak')).toEqual({ own: { name: 'x', channel: 'SG4', at: 'peak' } })
    expect(typed('peak', '', '(LL1 - LL5) / 1.27 m')).toEqual({
      own: { name: 'x', expression: '(LL1 - LL5) / 1.27 m', at: 'peak' },
    })
    expect(ownAsked({ name: 'x', reads: 'T1', place: 'end', said: '', isZeroed: false })).toEqual({
      own: { name: 'x', channel: 'T1', at: 'end', zero: null },
    })
  })
  it('says what is lacking', () => {
    expect(at('load', '12')).toBe('How much? “12 kN”.')
    expect(at('step', '0')).toBe('Which one? A whole number, from 1.')
    expect(at('slope')).toBe('On which channel?')
    expect(at('mean', '10')).toMatch(/^From when to when/)
    expect(ownAsked({ name: '', reads: 'a', place: 'peak', said: '', isZeroed: true })).toEqual({ lacks: 'Name it.' })
  })
  it('stands with those that an article declares, once', () => {
    const declared = [{ name: 'a', channel: 'A', at: 'peak', kind: 'force' as const }]
    const settings = {
      own: [
        { name: 'a', channel: 'A', at: 'peak' },
        { name: 'b', channel: 'B', at: 'end' },
      ],
    }
    const kept = { settings, output: { own: { a: { kind: 'force' as const }, b: { kind: 'strain' as const } } } }
    expect(ownOf(declared, kept).map(o => [o.name, o.kind])).toEqual([
      ['a', 'force'],
      ['b', 'strain'],
    ])
    expect(ownOf(declared, undefined)).toEqual(declared)
  })
})
