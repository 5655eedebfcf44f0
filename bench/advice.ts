import {
  candidateOf,
  chosenCandidate,
  explain,
  SeededRandom,
  adviseRevision,
  sizingOf,
  type Explanation,
  type Fact,
  type Result,
  type SizingInput,
} from '@hypomet/core'

/*
 * One slider step over ten limits and four sizes; the advice as a whole; five explanations of ten thousand points.
 * Medians.
 */

const result = (value: number, u: number): Result => ({ value, unit: '', bound: 'exact', u, k: 2 })
const length = (name: string, mm: number): Fact => ({ group: 'Geometry', name, value: { value: mm, unit: 'mm' } })
const limit = (quantity: string, comparator: 'atLeast' | 'atMost', value: number, id: number) => ({
  id,
  name: `${quantity} ${id}`,
  quantity,
  comparator,
  value,
})

/** The demo's arm: a beam calculation of four sizes; its three limits and more on the same results. */
const arm: SizingInput = {
  family: 'static',
  settings: {},
  mass: 3.2,
  rule: 'guarded',
  rules: {},
  history: [],
  materials: [
    { name: 'Stiffer weave', modulus: 74e9, strength: 400e6, shearStrength: 58e6, density: 1560, leadTimeDays: 28 },
  ],
  revision: {
    label: 'B',
    facts: [],
    results: {},
    properties: {
      section: 'box',
      length: 2.1,
      width: 0.08,
      rootHeight: 0.12,
      tipHeight: 0.07,
      capThickness: 0.003,
      webThickness: 0.0025,
      modulus: 58e9,
      strength: 420e6,
      shearStrength: 60e6,
      density: 1550,
    },
  },
  plan: {
    designLoad: 3200,
    loading: {
      kind: 'points',
      loads: [
        { x: 2.1, share: 0.8 },
        { x: 1.1, share: 0.2 },
      ],
    },
    deflectionAt: 2.1,
    rungs: [0, 3200, 0].map(target => ({ target, hold: 24 })),
    ramp: 12,
    rate: 10,
    minHold: 12,
    holdTolerance: 25,
    channels: [
      { role: 'load', label: 'Hook', kind: 'force' },
      { role: 'deflection', label: 'Tip', kind: 'length' },
    ],
  },
  results: {
    maxLoad: result(5600, 8),
    loadFactor: result(1.75, 0.003),
    deflectionAtDesign: result(0.0894, 0.0003),
    stiffness: result(35_800, 120),
    permanentSet: result(0.0009, 0.00008),
    setRatio: result(0.0057, 0.0005),
  },
  limits: [
    limit('maxLoad', 'atLeast', 4800, 1),
    limit('loadFactor', 'atLeast', 1.5, 2),
    limit('deflectionAtDesign', 'atMost', 0.082, 3),
    limit('stiffness', 'atLeast', 38_000, 4),
    limit('permanentSet', 'atMost', 0.001, 5),
    limit('setRatio', 'atMost', 0.01, 6),
    limit('maxLoad', 'atLeast', 5000, 7),
    limit('deflectionAtDesign', 'atMost', 0.084, 8),
    limit('stiffness', 'atLeast', 37_000, 9),
    limit('permanentSet', 'atMost', 0.0012, 10),
  ],
}
/** Two sizes by laws. */
const tube: SizingInput = {
  ...arm,
  family: 'crush',
  plan: {},
  mass: 0.86,
  results: { meanForce: result(25.1e3, 80), initialPeak: result(30e3, 100) },
  limits: [limit('meanForce', 'atLeast', 27e3, 1), limit('initialPeak', 'atMost', 38e3, 2)],
  revision: { label: 'A', properties: {}, facts: [length('Wall thickness', 2.6), length('Diameter', 80)], results: {} },
}

function median(times: number, work: (i: number) => void): number {
  const taken = Array.from({ length: times }, (_, i) => {
    const from = performance.now()
    work(i)
    return performance.now() - from
  })
  return taken.sort((a, b) => a - b)[times >> 1]!
}

const { asked, mass } = sizingOf(arm)
const random = new SeededRandom(3)
const N = 10_000
const data = {
  x: Array.from({ length: N }, (_, i) => i / 1000),
  y: Array.from({ length: N }, (_, i) => 3 * (1 - Math.exp((-0.8 * i) / 1000)) + 0.02 * random.normal()),
}
const model = (name: string, expression: string, names: string[]): Explanation => ({
  name,
  kind: 'expression',
  expression,
  parameters: names.map(n => ({ name: n, start: 0.5 })),
})
const five = [
  model('approach', 'a*(1 - exp(-b*x))', ['a', 'b']),
  model('straight', 'a + b*x', ['a', 'b']),
  model('root', 'a*sqrt(x)', ['a']),
  model('saturation', 'a*x/(b + x)', ['a', 'b']),
  model('cubic', 'a*x + b*x^2 + c*x^3', ['a', 'b', 'c']),
]

const rows = [
  [
    'a slider step, beam calculation, 10 limits, 4 sizes',
    median(400, i => chosenCandidate({ capThickness: 0.002 + i * 1e-5 }, asked, mass)),
    16,
  ],
  ['advice of the arm, all candidates', median(9, () => adviseRevision(arm)), null],
  ['a slider step, laws, 2 sizes', median(400, i => candidateOf(tube, { sizes: { wall: 0.002 + i * 1e-5 } })), 16],
  ['advice of the tube, all candidates', median(21, () => adviseRevision(tube)), null],
  ['five explanations of 10 000 points', median(5, () => explain(data, five)), 3000],
] as const
for (const [what, ms, aim] of rows) console.log(`${what}: ${ms.toFixed(2)} ms${aim === null ? '' : ` (aim ${aim})`}`)
