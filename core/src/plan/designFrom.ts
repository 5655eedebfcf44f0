import * as z from 'zod'
import type { Kind } from '../quantity/index'
import { warn, type Finding } from './finding'

/** Which limit a design load was derived from, until somebody says that it is right. `asked` is SI. */
export const designFromField = z
  .object({ limit: z.string(), level: z.string(), asked: z.number(), divided: z.number() })
  .optional()

export type DesignFrom = NonNullable<z.output<typeof designFromField>>

/** Says what a derived design load rests on, so that a person decides. */
export function designFindings(
  { limit, level, asked, divided }: DesignFrom,
  load: number,
  kind: Kind,
  show: (si: number, kind: Kind) => string,
): Finding[] {
  const from =
    divided === 1
      ? `the ${level} load of “${limit}”, as it stands`
      : `${show(asked, kind)} asked by “${limit}” (${level}), over ${Number(divided.toPrecision(4))}`
  return [
    warn(
      'design-derived',
      'designLoad',
      `The design load of ${show(load, kind)} is derived: ${from}.`,
      'Say under Loading that it is right, or type another.',
    ),
  ]
}
