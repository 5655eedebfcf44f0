import * as z from 'zod'
import { quantity } from '../../method/settings'

const capacitance = (title: string) => quantity('capacitance', { title, positive: true })

/** A circuit as it is entered: what the model of the element says. */
export const circuitField = z
  .object({
    R1: quantity('resistance', { title: 'R1', positive: true }),
    L1: quantity('inductance', { title: 'L1', positive: true }),
    C1: capacitance('C1'),
    C0: capacitance('C0'),
  })
  .optional()
  .meta({ title: 'Circuit of the model' })
