import { describe, expect, it } from 'vitest'
import { isSamePlace, placesCompared, placesRight } from './places'

describe('places of failure', () => {
  it.each([
    ['Root clamp', 'root clamp, lower jaw', true],
    ['seam', 'Seams of the bag', true],
    ['splice', 'Sewing', false],
    ['end', 'bending', false],
    ['tip 0.42 m', 'tip 0.4 m', false],
    ['', 'root', false],
  ])('“%s” and “%s”: %s', (a, b, same) => {
    expect([isSamePlace(a, b), isSamePlace(b, a)]).toEqual([same, same])
  })

  it('are held against what was seen, and nothing is made of what nobody said', () => {
    const compared = placesCompared(
      [
        { by: 'Ada', place: 'Root', mode: 'bending' },
        { by: 'beam', place: 'splice', mode: '' },
        { by: 'Bo', place: '', mode: '' },
      ],
      { place: 'root clamp', mode: 'insert sheared' },
    )
    expect(compared.map(c => [c.by, c.isPlace, c.isMode])).toEqual([
      ['Ada', true, false],
      ['beam', false, null],
    ])
    expect(placesCompared([{ by: 'Ada', place: 'Root', mode: '' }], { place: '', mode: '' })[0]!.isPlace).toBeNull()
    expect(placesRight([...compared, { by: 'Ada', place: 'tip', mode: '', isPlace: false, isMode: null }])).toEqual([
      { by: 'Ada', right: 1, of: 2 },
      { by: 'beam', right: 0, of: 1 },
    ])
  })
})
