import { describe, expect, it } from 'vitest'
import { madeOf, whyNull } from './uncertaintyWords'

describe('what is said of an uncertainty', () => {
  it('is what it is made of, the largest first, by the share of its square', () => {
    const parts = [
      { name: 'load: gain', u: 3 },
      { name: 'scatter', u: 1 },
      { name: 'load: zero', u: 0.1 },
    ]
    expect(madeOf({ value: 5, u: 3.2, parts })).toBe('Its U is made of load: gain 90\u202f%, scatter 10\u202f%.')
    expect(madeOf({ value: 5, u: 3.2 })).toBe('')
  })

  it('is that there is none, but for what is null; an interval has its own at its ends, or none', () => {
    expect(madeOf({ value: 5 })).toBe('No uncertainty is known of it.')
    expect(madeOf({ value: 5, u: 0.5 })).toBe('')
    expect(madeOf({ value: null })).toBe('')
  })

  it('of what could not be had is why, not what else was seen', () => {
    const warnings = [
      { code: 'no-slope', message: 'No stiffness.' },
      { code: 'clipped', message: 'The reading stands at full scale.' },
    ]
    expect(whyNull({ warnings })).toBe('No stiffness.')
  })
})
