import * as z from 'zod'
import { STANDARD_GRAVITY } from '../../quantity/index'
import { defineCalc } from '../../method/calculation'
import { issue, plain, quantity } from '../../method/settings'
import { exact, given } from '../answer'

const settings = z
  .object({
    impactVelocity: quantity('velocity', { title: 'Impact velocity', positive: true }),
    guideLoss: plain({ title: 'Lost in the guide', min: 0, max: 0.99 }).default(0),
    restitution: plain({ title: 'Restitution', min: 0, max: 1 }).optional(),
    cfc: plain({ title: 'Channel frequency class', oneOf: [60, 180, 600, 1000] }),
    targetDeceleration: quantity('acceleration', { title: 'Wanted deceleration', positive: true }).optional(),
    availableStroke: quantity('length', { title: 'Space to crush', positive: true }).optional(),
  })
  .superRefine((s, ctx) => {
    if (s.availableStroke !== undefined && s.targetDeceleration === undefined)
      issue(ctx, 'missing-setting', 'The stroke follows from a wanted deceleration.', ['targetDeceleration'])
  })

/**
 * Drop height for an impact velocity, what it rebounds, the least sample rate, and the stroke against the space there
 * is.
 */
export const dropPlan = defineCalc({
  id: 'drop-plan',
  title: 'Drop plan',
  purpose: 'Height, rebound, sample rate and stroke for an impact velocity',
  version: '1.0.0',
  settings,
  example: {
    impactVelocity: 6,
    guideLoss: 0.04,
    restitution: 0.2,
    cfc: 180,
    targetDeceleration: { value: 15, unit: 'g' },
    availableStroke: 0.1,
  },
  calculate({ impactVelocity: v, guideLoss, restitution, cfc, targetDeceleration, availableStroke }) {
    const stroke = targetDeceleration === undefined ? null : v ** 2 / (2 * targetDeceleration)
    const margin = stroke === null || availableStroke === undefined ? null : availableStroke / stroke - 1
    return {
      results: given({
        height: exact(v ** 2 / (2 * STANDARD_GRAVITY * (1 - guideLoss)), 'm'),
        reboundHeight: restitution === undefined ? null : exact((restitution * v) ** 2 / (2 * STANDARD_GRAVITY), 'm'),
        sampleRate: exact(10 * cfc, 'Hz'),
        stroke: stroke === null ? null : exact(stroke, 'm'),
        strokeMargin: margin === null ? null : exact(margin, '1'),
      }),
      tables: {},
      warnings:
        margin !== null && margin < 0
          ? [{ code: 'stroke-too-short', message: 'There is less space than the stroke needs: it will bottom out.' }]
          : [],
    }
  },
})
