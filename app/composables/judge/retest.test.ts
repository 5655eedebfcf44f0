import { describe, expect, it } from 'vitest'
import { planTo } from './retest'

const kN = (value: number) => ({ value, unit: 'kN' })
const plan = { rungs: [0, 2, 4, 0].map((v, i) => ({ target: kN(v), hold: 10 + i })), rate: 10 }

describe('a ladder that gets to a load', () => {
  it('has one more rung above its highest, in its unit, and comes down as before', () => {
    const made = planTo(plan, 4871, 'force') as typeof plan
    expect(made.rungs.map(r => r.target.value)).toEqual([0, 2, 4, 4.88, 0])
    expect(made.rungs[3]!.hold).toBe(12)
    expect(plan.rungs).toHaveLength(4)
  })
  it('stays as it is where it gets there, or has none', () => {
    expect(planTo(plan, 4000, 'force')).toBe(plan)
    expect(planTo({}, 10, 'force')).toEqual({})
    expect(planTo({ rungs: [{ target: 5 }] }, 12.34, 'force')).toEqual({ rungs: [{ target: 5 }, { target: 12.4 }] })
  })
})
