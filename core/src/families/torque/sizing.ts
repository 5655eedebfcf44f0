import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { torqueFacts } from './facts'

const bar = (exponent: number) => ({
  exponent,
  doubt: 0.1,
  because:
    exponent === 4
      ? 'a round bar twists by its diameter to the fourth'
      : 'stress in a round bar goes with torque over diameter cubed',
})
const notch = (doubt: number) => ({ exponent: 0.12, doubt, because: 'a rounder fillet lowers the notch' })

/** @source Timoshenko & Gere, Mechanics of Materials, ch. 3 */
export const torqueSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'diameter',
      ...sizeBy(torqueFacts, 'diameter'),
      step: 0.0005,
      mass: { exponent: 2 },
      touches: ['Bearings and seals', 'Coupling: it may become the weakest link'],
      results: { ultimateTorque: bar(3), yieldTorque: bar(3), factor: bar(3), stiffness: bar(4) },
    },
    {
      key: 'fillet',
      ...sizeBy(torqueFacts, 'fillet'),
      step: 0.0005,
      touches: ['Shoulder of the bearing'],
      results: { ultimateTorque: notch(0.1), yieldTorque: notch(0.1), factor: notch(0.1) },
    },
  ],
}
