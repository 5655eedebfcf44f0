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
      { cause: 'article', place: 'root clamp', mode: 'insert sheared' },
    )
    expect(compared.map(c => [c.by, c.isPlace, c.isMode])).toEqual([
      ['Ada', true, false],
      ['beam', false, null],
    ])
    const root = [{ by: 'Ada', place: 'Root', mode: '' }]
    expect(placesCompared(root, { cause: 'article', place: '', mode: '' })[0]!.isPlace).toBeNull()
    // The clamp gave way: where the article would have nobody knows.
    expect(placesCompared(root, { cause: 'fixture', place: 'root clamp', mode: '' })[0]!.isPlace).toBeNull()
    const tip = { by: 'Ada', place: 'tip', mode: '', isPlace: false, isMode: null }
    // Of two places of one source in one test the right one counts, once.
    expect(placesRight([[...compared, tip], [tip]])).toEqual([
      { by: 'Ada', right: 1, of: 2 },
      { by: 'beam', right: 0, of: 1 },
    ])
  })
})
