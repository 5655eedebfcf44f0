import { issue, quantity } from '../../method/settings'
import * as z from 'zod'

export const COUPON_KINDS = ['tension', 'compression', 'inPlaneShear', 'bearing', 'flexure'] as const

export const settings = z
  .object({
    kind: z.enum(COUPON_KINDS).meta({ title: 'Kind of coupon' }),
    chord: z
      .tuple([quantity('strain', { min: 0 }), quantity('strain', { positive: true })])
      .default([0.001, 0.003])
      .meta({ title: 'Chord of the modulus', kind: 'strain' }),
    offset: quantity('strain', { title: 'Bearing offset', positive: true }).default(0.02),
    diameter: quantity('length', { title: 'Pin', positive: true }).optional(),
    span: quantity('length', { title: 'Span', positive: true }).optional(),
  })
  .transform((s, ctx) => {
    if (!(s.chord[0] < s.chord[1])) issue(ctx, 'setting-range', 'A chord must end above where it begins.', ['chord'])
    if (s.kind === 'bearing' && s.diameter === undefined)
      issue(ctx, 'missing-setting', 'A bearing stress needs the pin’s diameter.', ['diameter'])
    if (s.kind === 'flexure' && s.span === undefined)
      issue(ctx, 'missing-setting', 'A bending stress needs the span.', ['span'])
    return s
  })

export type CouponSettings = z.output<typeof settings>
