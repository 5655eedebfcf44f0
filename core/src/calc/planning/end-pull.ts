import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { quantity } from '../../method/settings'
import { exact, given } from '../answer'

const settings = z.object({
  axialStiffness: quantity('force', { title: 'Axial stiffness EA', positive: true }),
  sag: quantity('length', { title: 'Sag in the middle', positive: true }),
  length: quantity('length', { title: 'Length between the ends', positive: true }),
  insertCapacity: quantity('force', { title: 'Capacity of an insert', positive: true }).optional(),
})

/** N at a sag of a half sine, m. */
export const endPullOf = (
  { axialStiffness, length }: { axialStiffness: number; length: number },
  sag: number,
): number => (axialStiffness * Math.PI ** 2 * sag ** 2) / (4 * length ** 2)

/**
 * Pull in the plane of a beam whose ends cannot slide, for a half-sine sag: EA·π²δ²/(4L²), beside what its attachment
 * carries.
 *
 * @source arc length of a half sine, (π²δ²)/(4L), over L; Timoshenko, Strength of Materials II, ch. 1
 */
export const endPull = defineCalc({
  id: 'end-pull',
  title: 'End pull',
  purpose: 'What ends that cannot slide pull on their inserts as the span sags',
  version: '1.0.0',
  settings,
  example: {
    axialStiffness: { value: 4.2, unit: 'MN' },
    sag: { value: 45, unit: 'mm' },
    length: 2.4,
    insertCapacity: { value: 3, unit: 'kN' },
  },
  calculate({ axialStiffness, sag, length, insertCapacity }) {
    const force = endPullOf({ axialStiffness, length }, sag)
    return {
      results: given({
        force: exact(force, 'N'),
        utilisation: insertCapacity ? exact(force / insertCapacity, '1') : null,
        margin: insertCapacity ? exact(insertCapacity / force - 1, '1') : null,
      }),
      tables: {},
      warnings:
        insertCapacity && force > insertCapacity
          ? [
              {
                code: 'insert-overload',
                message: 'The ends pull more than their inserts carry: let one of them slide.',
              },
            ]
          : [],
    }
  },
})
