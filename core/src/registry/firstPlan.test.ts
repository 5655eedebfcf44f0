import { describe, expect, it } from 'vitest'
import { PROPERTIES } from '../fixtures/arm'
import {
  families,
  firstPlan,
  planningOf,
  planProblems,
  planSchemaOf,
  proposeFor,
  templatesFor,
  viewPlanOf,
  withoutExamples,
  type QuantityInput,
} from '../index'

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

  it('static: a limit load is the design load, an ultimate load is over its factor, and both are asked', () => {
    const derived = (limits: Parameters<typeof firstPlan>[2]) => {
      const plan = firstPlan('static', {}, limits)
      const { findings } = viewPlanOf('static', plan, PROPERTIES, {}).view
      return [plan['designLoad'], Math.max(...targets(plan.rungs)), findings.find(f => f.code === 'design-derived')]
    }
    const limit = { quantity: 'maxLoad', value: 4000, name: 'Carries', level: 'limit' }
    expect(derived([limit])).toEqual([
      { value: 4000, unit: 'N' },
      4000,
      expect.objectContaining({
        message: expect.stringContaining('the limit load of “Carries”, as it stands') as string,
      }),
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
    expect(viewPlanOf('static', { ...plan, rungs }, PROPERTIES, {}).view.maxTarget).toBeCloseTo(
      7200 * 4.4482216152605,
      6,
    )
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

  it.each(ids)('%s: what nobody said is an example that keeps it from being released, and is told apart', id => {
    const plan = firstPlan(id, {}, [])
    const { commanded } = planSchemaOf(id).parse(plan)
    expect(plan.examples).toContain('rungs')
    const limited = Object.entries(planningOf(id).readBy).find(([, role]) => role === commanded.role)
    // A limit on what is commanded says how far to go.
    if (limited) expect(firstPlan(id, {}, [{ quantity: limited[0], value: 3 }]).examples).not.toContain('rungs')
    const said = withoutExamples(planSchemaOf(id).parse(plan))
    expect(said.rungs).toEqual([])
    if (plan.examples.includes('loading')) expect(said.loading).toEqual({ kind: 'direct', settings: {} })
  })

  it('writes in the units of its campaign, and foretells nothing of examples', () => {
    const plan = firstPlan('pull', {}, [{ quantity: 'peakForce', value: 8896.443 }], { force: 'lbf' })
    expect(plan.rungs.map(r => r.target)).toContainEqual({ value: 2000, unit: 'lbf' })
    const arm = firstPlan('static', PROPERTIES, [])
    const view = (examples: string[]) => viewPlanOf('static', { ...arm, examples }, PROPERTIES, {}).view
    expect(
      view(arm.examples)
        .findings.filter(f => f.code === 'example-values')
        .map(f => [f.path, f.severity]),
    ).toEqual([
      ['loading', 'stop'],
      ['rungs', 'stop'],
      ['designLoad', 'stop'],
      ['holdTolerance', 'stop'],
    ])
    expect(view(arm.examples).predictions).toEqual([])
    expect(view([]).predictions.length).toBeGreaterThan(0)
  })

  it('proposes nothing to a reduction that was only an example', () => {
    const fallen = {
      columns: { t: [0, 0.01, 0.02, 0.03], acceleration: [0, 300, 200, 0] },
      units: { t: 's', acceleration: 'm/s²' },
      labels: {},
      hasClock: true,
      name: 'Drop 1',
    }
    const proposed = (plan: object) => proposeFor('drop', fallen as never, { plan: plan as never, outcome: '' })
    const plan = firstPlan('drop', {}, [])
    expect(proposed({ ...plan, examples: [] })).toHaveProperty('impactVelocity')
    expect(proposed({ ...plan, examples: [] })).toHaveProperty('mass', 20)
    expect(Object.keys(proposed(plan))).not.toEqual(expect.arrayContaining(['impactVelocity']))
    expect(Object.keys(proposed(plan))).not.toEqual(expect.arrayContaining(['mass']))
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
