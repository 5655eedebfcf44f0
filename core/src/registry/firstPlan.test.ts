import { describe, expect, it } from 'vitest'
import { PROPERTIES } from '../fixtures/arm'
import {
  families,
  firstPlan,
  planningOf,
  planWithFacts,
  roundLevels,
  type AskedOf,
  type Fact,
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
    for (const plan of [firstPlan(id), firstPlan(id, { properties: { length: { value: 2, unit: 'm' } } })]) {
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
    const derived = (limits: AskedOf[]) => {
      const plan = firstPlan('static', { limits, properties: PROPERTIES })
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
    const plan = { ...firstPlan('static'), oneG: { value: 800, unit: 'lbf' } }
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
    const plan = firstPlan('static', {
      properties: { length },
      limits: [{ quantity: 'maxLoad', value: 6000, level: 'ultimate' }],
    })
    expect(targets(plan.rungs)).toEqual([0, 1000, 2000, 3000, 4000, 0, 5000, 6000, 0])
    expect(plan.loading).toMatchObject({ kind: 'points', loads: [{ x: length, share: 1 }] })
    expect(plan).toMatchObject({ designLoad: { value: 4000, unit: 'N' }, deflectionAt: length })
  })

  it('other kinds go to the limit itself and end at zero; a limit on another quantity is no goal', () => {
    const plan = firstPlan('burst', {
      limits: [
        { quantity: 'leakRate', value: 9 },
        { quantity: 'burstPressure', value: 8e5 },
      ],
    })
    expect(targets(plan.rungs)).toEqual([0, 2e5, 4e5, 6e5, 8e5, 0])
  })

  it.each(ids)('%s: a ladder that no limit asks for is an example that keeps it from being released, and round', id => {
    const plan = firstPlan(id)
    const { commanded } = planSchemaOf(id).parse(plan)
    expect(plan.examples).toContain('rungs')
    for (const t of targets(plan.rungs).filter(t => t > 0)) expect(Number(t.toPrecision(2))).toBe(t)
    const limited = Object.entries(planningOf(id).readBy).find(([, role]) => role === commanded.role)
    // A limit on what is commanded says how far to go.
    if (limited) {
      const asked = firstPlan(id, { limits: [{ quantity: limited[0], value: 3 }] })
      expect(asked.examples).not.toContain('rungs')
    }
    expect(withoutExamples(planSchemaOf(id).parse(plan)).rungs).toEqual([])
  })

  it.each(ids)('%s: holds no number of a rig or an article that nobody has said', id => {
    const plan = firstPlan(id)
    const { findings } = viewPlanOf(id, plan, {}, {}).view
    const said = JSON.stringify({ ...plan, rungs: [], ramp: 0, rate: 0, channels: [] })
    // What is left is a share, a class or a time that counts as good, never a size, a mass or a capacity.
    for (const unit of ['kN', 'N', 'm', 'mm', 'kg', 'L', 'm²', 'kPa', 'MPa', 'rpm']) {
      if (plan.examples.includes('loading')) continue
      expect(said).not.toContain(`"unit":"${unit}"`)
    }
    for (const f of findings.filter(f => f.code === 'not-said')) expect(f.message).toMatch(/^.+ hang on it\.$/)
  })

  it('takes what the article says, typed once, until somebody types another', () => {
    const facts = [
      { group: 'Geometry', name: 'inner radius', value: { value: 210, unit: 'mm' } },
      { group: 'Geometry', name: 'Volume', value: { value: 48, unit: 'L' } },
      { group: 'Other', name: 'Working pressure', value: { value: 2, unit: 'bar' } },
    ]
    const plan = firstPlan('burst', { limits: [{ quantity: 'burstPressure', value: 8e5 }] })
    const { view, plan: read } = viewPlanOf('burst', plan, {}, {}, { facts })
    expect(view.findings.filter(f => f.code === 'not-said')).toEqual([])
    // pV of water is nothing; line load 8 bar · 210 mm = 168 kN/m
    expect(view.loading.facts.find(f => f.label === 'Hoop line load')?.value).toBeCloseTo(168_000, 6)
    expect(read).toMatchObject({ radius: 0.21, ratedPressure: 2e5, loading: { settings: { volume: 0.048 } } })
    const typed = { ...plan, radius: { value: 220, unit: 'mm' } }
    expect(viewPlanOf('burst', typed, {}, {}, { facts }).plan).toMatchObject({ radius: 0.22 })
    const { filled } = planWithFacts('burst', plan, facts)
    expect(filled.map(f => `${f.path} ${f.fact.title}`)).toEqual([
      'radius Radius',
      'loading.radius Radius',
      'loading.volume Volume',
      'ratedPressure Rated pressure',
      'loading.ratedPressure Rated pressure',
    ])
    const empty = viewPlanOf('burst', plan, {}, {}).view
    expect(empty.findings.filter(f => f.code === 'not-said').map(f => [f.path, f.severity])).toEqual([
      ['loading.volume', 'stop'],
      ['loading.radius', 'warn'],
    ])
    expect(empty.hazards.find(h => h.id === 'pressure')?.energy).toBeNull()
  })

  it('follows the last test of the article: its set-up and channels; a ladder anew where limits ask for more', () => {
    const facts = [{ group: 'Geometry', name: 'Radius', value: { value: 210, unit: 'mm' } }]
    const first = firstPlan('burst', { limits: [{ quantity: 'burstPressure', value: 8e5 }] })
    const tested = planWithFacts(
      'burst',
      { ...first, rate: { value: 50, unit: 'Hz' }, people: [{ name: 'Ada' }] },
      facts,
    )
    const last = { plan: tested.plan as Record<string, unknown>, facts }
    const again = firstPlan('burst', { limits: [{ quantity: 'burstPressure', value: 8e5 }], last })
    expect([again.rungs, again.rate, again['people']]).toEqual([
      first.rungs,
      { value: 50, unit: 'Hz' },
      [{ name: 'Ada' }],
    ])
    // The next revision is larger: its own radius counts, not what the last plan said of the other.
    const larger = [{ ...facts[0]!, value: { value: 260, unit: 'mm' } }]
    expect(viewPlanOf('burst', again, {}, {}, { facts: larger }).plan).toMatchObject({ radius: 0.26 })
    const more = firstPlan('burst', { limits: [{ quantity: 'burstPressure', value: 12e5 }], last })
    expect(targets(more.rungs)).toEqual([0, 2e5, 4e5, 6e5, 8e5, 1e6, 12e5, 0])
    expect(more.rate).toEqual({ value: 50, unit: 'Hz' })
  })

  it.each([
    [4000, [1000, 2000, 3000, 4000]],
    [3200, [500, 1000, 1500, 2000, 2500, 3000, 3200]],
    [0.012, [0.002, 0.004, 0.006, 0.008, 0.01, 0.012]],
    [10.3, [2, 4, 6, 8, 10.3]],
  ])('rungs to %d are those that crews use', (goal, rungs) => {
    expect(roundLevels(0, goal)).toEqual(rungs)
  })

  it('writes in the units of its campaign, and foretells nothing of examples', () => {
    const limits = [{ quantity: 'peakForce', value: 8896.443 }]
    const plan = firstPlan('pull', { limits, prefer: { force: 'lbf' } })
    expect(plan.rungs.map(r => r.target)).toContainEqual({ value: 2000, unit: 'lbf' })
    const arm = firstPlan('static', { properties: PROPERTIES })
    const view = (examples: string[]) => viewPlanOf('static', { ...arm, examples }, PROPERTIES, {}).view
    expect(
      view(arm.examples)
        .findings.filter(f => f.code === 'example-values')
        .map(f => [f.path, f.severity]),
    ).toEqual([['rungs', 'stop']])
    expect(view(arm.examples).predictions).toEqual([])
    expect(view([]).predictions.length).toBeGreaterThan(0)
  })

  it('proposes to a reduction what the article says, and nothing that was only an example', () => {
    const fallen = {
      columns: { t: [0, 0.01, 0.02, 0.03], acceleration: [0, 300, 200, 0] },
      units: { t: 's', acceleration: 'm/s²' },
      labels: {},
      hasClock: true,
      name: 'Drop 1',
    }
    const proposed = (plan: object | null, facts: Fact[] = []) =>
      proposeFor('drop', fallen as never, { plan: plan as never, outcome: '', facts })
    const plan = firstPlan('drop')
    expect(proposed({ ...plan, examples: [] })).toHaveProperty('impactVelocity')
    expect(Object.keys(proposed(plan))).not.toEqual(expect.arrayContaining(['impactVelocity']))
    expect(Object.keys(proposed(plan))).not.toEqual(expect.arrayContaining(['mass']))
    const facts = [{ group: 'Other', name: 'Drop mass', value: { value: 412, unit: 'kg' } }]
    expect(proposed(plan, facts)).toHaveProperty('mass', 412)
    expect(proposed(null, facts)).toHaveProperty('mass', { value: 412, unit: 'kg' })
  })

  it('does not share what it gives out', () => {
    const [a, b] = [firstPlan('pull'), firstPlan('pull')]
    ;(a.loading as unknown as { path: { name: string }[] }).path[0]!.name = 'changed'
    expect(JSON.stringify(b)).not.toContain('changed')
  })

  it('says what calculates its predictions, where something does', () => {
    const plan = firstPlan('torque')
    expect(viewPlanOf('torque', plan, {}, {}).view.predictedBy).toBe('')
  })
})
