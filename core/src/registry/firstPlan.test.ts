import { describe, expect, it } from 'vitest'
import { PROPERTIES } from '../fixtures/arm'
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

  it('static: a limit load is the design load as it stands, an ultimate load is over its factor, and both are asked', () => {
    const derived = (limits: Parameters<typeof firstPlan>[2]) => {
      const plan = firstPlan('static', {}, limits)
      const { findings } = viewPlanOf('static', plan, PROPERTIES, {}).view
      return [plan['designLoad'], Math.max(...targets(plan.rungs)), findings.find(f => f.code === 'design-derived')]
    }
    const limit = { quantity: 'maxLoad', value: 4000, name: 'Carries', level: 'limit' }
    expect(derived([limit])).toEqual([
      { value: 4000, unit: 'N' },
      4000,
      expect.objectContaining({ message: expect.stringContaining('the limit load of “Carries”, as it stands') as string }),
    ])
    const ultimate = { ...limit, name: 'Breaks at', value: 9000, level: 'ultimate', factor: 2 }
    expect(derived([ultimate])[0]).toEqual({ value: 4500, unit: 'N' })
    expect(derived([ultimate, limit])).toMatchObject([{ value: 4000 }, 9000, { severity: 'warn' }])
    // Without a limit nothing is derived: the example says what it is by its place.
    expect(derived([])[2]).toBeUndefined()
  })

  it('a load may be so many times a weight, where the plan knows which', () => {
    const plan = { ...firstPlan('static', {}, []), oneG: { value: 800, unit: 'lbf' } }
    const rungs = [...plan.rungs.slice(0, 2), { target: { value: 9, unit: 'g' }, hold: 20 }]
    expect(viewPlanOf('static', { ...plan, rungs }, PROPERTIES, {}).view.maxTarget).toBeCloseTo(7200 * 4.4482216152605, 6)
    expect(planProblems('static', { ...plan, oneG: undefined, rungs }).slice(0, 1)).toMatchObject([
      { code: 'unit-dimension', message: expect.stringContaining('weight that 1 g means') as string },
    ])
  })

  it('static: goes to what its limit asks by way of a zero at design load, and loads the end of the article', () => {
    const length = { value: 72, unit: 'in' }
    const plan = firstPlan('static', { length }, [{ quantity: 'maxLoad', value: 6000, level: 'ultimate' }])
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
