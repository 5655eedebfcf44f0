import * as z from 'zod'
import { HypometError, isHypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { plain, quantity } from '../../method/settings'
import { fitCensoredLine, type CensoredLine } from '../../statistics/censoredLine'
import { exact } from '../answer'

const settings = z.object({
  rows: z
    .array(
      z.object({
        fraction: plain({ title: 'Share of the strength', positive: true }),
        time: quantity('time', { title: 'Time', positive: true }),
        ranOut: z.boolean().default(false).meta({ title: 'Ran out' }),
      }),
    )
    .min(1)
    .meta({ title: 'Specimens' }),
  serviceFraction: plain({ title: 'Share in service', positive: true }),
})

/** Shares closer than this are one. */
const SAME = 1e-9

/** @throws HypometError `data-range` at the rows where the likelihood has no maximum */
function lineThrough(points: Parameters<typeof fitCensoredLine>[0]): CensoredLine {
  try {
    return fitCensoredLine(points)
  } catch (e) {
    throw isHypometError(e) ? e.at({ path: 'settings.rows' }) : e
  }
}

/** One-sided 95 % point of the normal distribution, as the contract writes it. */
const Z95 = 1.6449

/**
 * Life under a steady load: log₁₀ t = intercept + slope·fraction + σ·z by maximum likelihood, run-outs right-censored.
 * The
 * lower life takes scatter and the fit's own doubt together: 10^(μ − 1.6449·√(σ² + se²)).
 *
 * @throws HypometError `data-range` below three failures, for failures at one share, and where they scatter too little
 * @source Nelson, Accelerated Testing, ch. 5 (censored regression by maximum likelihood)
 */
export const creepLife = defineCalc({
  id: 'creep-life',
  title: 'Creep life',
  purpose: 'Life at a service load from times to failure, with run-outs',
  version: '1.1.0',
  settings,
  example: {
    rows: [
      { fraction: 0.9, time: 915 },
      { fraction: 0.9, time: 1557 },
      { fraction: 0.8, time: 29422 },
      { fraction: 0.8, time: 19465 },
      { fraction: 0.7, time: 508982 },
      { fraction: 0.7, time: 1e6, ranOut: true },
    ],
    serviceFraction: 0.5,
  },
  calculate({ rows, serviceFraction }) {
    if (rows.filter(r => !r.ranOut).length < 3)
      throw new HypometError(
        'data-range',
        'At least three failures are needed; run-outs alone say nothing of the slope.',
        { path: 'settings.rows' },
      )
    const failed = rows.filter(r => !r.ranOut).map(r => r.fraction)
    if (Math.max(...failed) - Math.min(...failed) <= SAME)
      throw new HypometError('data-range', 'All failures are at one share of the strength: they identify no slope.', {
        path: 'settings.rows',
      })
    const { intercept, slope, sigma, standardErrorAt } = lineThrough(
      rows.map(r => ({ x: r.fraction, value: Math.log10(r.time), isBound: r.ranOut })),
    )
    const mu = intercept + slope * serviceFraction
    const decades = mu - Math.log10(Math.max(...rows.map(r => r.time)))
    return {
      results: {
        intercept: exact(intercept, '1'),
        slope: exact(slope, '1'),
        sigma: exact(sigma, '1'),
        life: exact(10 ** mu, 's'),
        lifeLower: exact(10 ** (mu - Z95 * Math.hypot(sigma, standardErrorAt(serviceFraction))), 's'),
        decades: exact(decades, '1'),
      },
      tables: {},
      warnings:
        decades > 1
          ? [
              {
                code: 'extrapolation',
                message: `The life asked for lies ${decades.toFixed(1)} decades past the longest time that was tested.`,
              },
            ]
          : [],
    }
  },
})
