import { describe, expect, it } from 'vitest'
import { families, firstPlan, planningOf, planProblems, templatesFor, viewPlanOf, type QuantityInput } from '../index'

const ids = Object.keys(families)
const targets = (rungs: { target: QuantityInput }[]) => rungs.map(r => (r.target as { value: number }).value)

describe('a plan to begin with', () => {
  it.each(ids)('%s: holds by the schema of its kind, with its needed channels, whatever is known', id => {
    for (const plan of [firstPlan(id, {}, []), firstPlan(id, { length: { value: 2, unit: 'm' } }, [])]) {
      expect(planProblems(id, plan).map(p => `${p.place.path}: ${p.message}`)).toEqual([])
      const roles = plan.channels.map(c => c.role)
      for (const { role } of planningOf(id).needed) expect(roles).toContain(role)
      expect(new Set(roles).size).toBe(roles.length)
    }
  })

  it.each(ids)('%s: so does a template for each of its ways of loading', id => {
    const templates = templatesFor(id)
    expect(templates.map(t => t.plan.loading.kind)).toEqual(planningOf(id).loadings)
    for (const { plan } of templates) expect(planProblems(id, plan).map(p => p.message)).toEqual([])
  })

  it('static: goes to what its limit asks by way of a zero at design load, and loads the end of the article', () => {
    const length = { value: 72, unit: 'in' }
    const plan = firstPlan('static', { length }, [{ quantity: 'maxLoad', value: 6000 }])
    expect(targets(plan.rungs)).toEqual([0, 1000, 2000, 3000, 4000, 0, 5000, 6000, 0])
    expect(plan.loading).toMatchObject({ kind: 'points', loads: [{ x: length, share: 1 }] })
    expect(plan).toMatchObject({ designLoad: { value: 4000, unit: 'N' }, deflectionAt: length })
  })

  it('other kinds go to the limit itself and end at zero; a limit on another quantity is no goal', () => {
    const plan = firstPlan('burst', {}, [
      { quantity: 'leakRate', value: 9 },
      { quantity: 'burstPressure', value: 8e5 },
    ])
    expect(Math.max(...targets(plan.rungs))).toBe(8e5)
    expect(targets(plan.rungs).at(-1)).toBe(0)
  })

  it('does not share what it gives out', () => {
    const [a, b] = [firstPlan('pull', {}, []), firstPlan('pull', {}, [])]
    ;(a.loading as unknown as { path: { name: string }[] }).path[0]!.name = 'changed'
    expect(JSON.stringify(b)).not.toContain('changed')
  })

  it('says what calculates its predictions, where something does', () => {
    const plan = firstPlan('torque', {}, [])
    expect(viewPlanOf('torque', plan, {}, {}).view.predictedBy).toBe('')
  })
})
