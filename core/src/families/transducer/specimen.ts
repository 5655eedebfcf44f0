import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { bessel1 } from '../../signal/bessel'
import { SeededRandom } from '../../statistics/random'
import { admittance, type Circuit } from './circuit'
import type { TransducerPlan } from './plan'

/** Of an element where no model says it: resonant near 40 kHz. */
const USUAL: Circuit = { R1: 300, L1: 0.075, C1: 2.2e-10, C0: 3.4e-9 }

/** Half angle at which a piston of the usual size is half as loud, rad. */
const WIDTH = 0.18

interface TransducerTruth extends Circuit {
  loss: number
}

/** An element behind its cable: its circuit, and a piston's beam. */
export const transducerSpecimen: Specimen<TransducerPlan, unknown, TransducerTruth, SpecimenMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const near = (v: number) => v * (1 + 0.02 * random.normal())
    const { R1, L1, C1, C0 } = plan.model ?? USUAL
    return { R1: near(R1), L1: near(L1), C1: near(C1), C0: near(C0), loss: 0.004 }
  },
  rest: () => ({ cap: null }),
  step: () => null,
  reader(plan, __, truth, c) {
    // An analyser begins at its lowest frequency.
    const lowest = Math.min(...plan.rungs.map(r => r.target).filter(f => f > 0))
    const at = (f: number) => impedanceOf(truth, Math.max(f, lowest))
    if (c.kind === 'resistance') return (_m, [f = 0]) => at(f).size
    if (c.kind === 'angle' && c.role === 'phase') return (_m, [f = 0]) => at(f).phase
    return c.kind === 'level'
      ? (_m, [angle = 0]) => 140 + 20 * Math.log10(Math.max(1e-3, Math.abs(pistonAt(Math.abs(angle) / WIDTH))))
      : null
  },
  gauge: () => ({ zero: 0, drift: 0, hysteresis: 0 }),
}

/** ohm and rad at a frequency, with the loss of its dielectric. */
export function impedanceOf(truth: TransducerTruth, f: number): { size: number; phase: number } {
  const w = 2 * Math.PI * Math.max(f, 1)
  const y = admittance(truth, w)
  const G = y.re + w * truth.C0 * truth.loss
  return { size: 1 / Math.hypot(G, y.im), phase: -Math.atan2(y.im, G) }
}

/** 2J₁(x)/x of a piston, its half-pressure angle at one. */
export const pistonAt = (share: number): number => 2 * bessel1((2.215 * share) ** 2)
