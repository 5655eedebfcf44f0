import { bendFar, type BentFar } from '../../calc/strength/elastica'
import type { PredictedValue } from '../../method/prediction'
import { warn } from '../../plan/finding'
import type { ArticleModel, BentSpan, Loaded, PointLoad, SpanModel } from '../../plan/model'
import { percent } from '../../plan/percent'
import { topOf } from '../../plan/plan'
import { bendArm, predictArm, sectionAt, weakestPlace, type StaticArticle } from './article'
import { forecastBudget } from './forecast'
import type { StaticPlan } from './plan'

/**
 * What the beam calculation knows of an article as it is planned. The prediction's band is taken as its expanded
 * uncertainty (u = band/2).
 */
export function staticModel(plan: StaticPlan, article: StaticArticle): ArticleModel | null {
  // Of loads whose places nobody has said nothing follows.
  if (plan.loads.length === 0) return null
  const span = spanOf(article, plan.support)
  const { designLoad, deflectionAt = article.length } = plan
  const arm = predictArm(article, plan.loads, deflectionAt, plan.support)
  const maxTarget = plan.rungs[topOf(plan.rungs)]!.target
  const under = (load: number) => span.bend(plan.loads.map(l => ({ x: l.x, force: l.share * load })))
  const deflectionUnder = (load: number, at = deflectionAt) => under(load).at(Math.min(at, article.length)).deflection
  const isFar = under(maxTarget).isFar === true
  const predicted = (quantity: string, value: number): PredictedValue => ({
    quantity,
    value,
    u: (plan.predictionBand * value) / 2,
  })
  return {
    span,
    mass: arm.mass,
    reading(channel, { target, loads }: Loaded) {
      if (channel.kind === 'force') return target
      const at = channel.role === 'deflection' ? deflectionAt : (channel.x ?? deflectionAt)
      const bent = span.bend(loads).at(Math.min(at, article.length))
      if (channel.kind === 'length') return bent.deflection
      if (channel.kind === 'strain') return span.bend(loads).at(channel.x ?? 0).strain
      return channel.kind === 'angle' ? bent.slope : null
    },
    failure: { place: arm.failurePlace, mode: arm.failureMode, at: arm.failureLoad },
    source: 'beam calculation',
    predictions: [
      predicted('stiffness', 1 / arm.compliance),
      ...(designLoad === undefined ? [] : [predicted('deflectionAtDesign', deflectionUnder(designLoad))]),
      predicted('maxLoad', arm.failureLoad),
    ],
    curves: { loadDeflection: curveTo(maxTarget, isFar, deflectionUnder) },
    findings: isFar
      ? [
          warn(
            'bends-far',
            'rungs',
            `At the top rung the end moves ` +
              `${percent(deflectionUnder(maxTarget, article.length) / article.length)} of ` +
              'the span: expected deflections are those of a beam that bends far, and no straight line.',
            'Give the gauge its way, and straps and jacks the room to follow.',
          ),
        ]
      : [],
    // Work of loads that grow together: half of each force times its way.
    energyAt({ loads }) {
      const bent = span.bend(loads)
      return loads.reduce((s, l) => s + (l.force * bent.at(l.x).deflection) / 2, 0)
    },
    budgetOf: (quantity, value, sensors) =>
      forecastBudget(quantity, value, sensors, {
        designLoad: designLoad ?? maxTarget,
        compliance: arm.compliance,
        maxTarget,
      }),
  }
}

const CURVE = 12

/** Deflection under each part of a load: a straight line where it bends little. */
function curveTo(top: number, isFar: boolean, deflectionUnder: (load: number) => number): { x: number[]; y: number[] } {
  const n = isFar ? CURVE : 1
  const y = Array.from({ length: n + 1 }, (_, i) => (top * i) / n)
  return { x: y.map(load => (load === 0 ? 0 : deflectionUnder(load))), y }
}

/** Share of the span from which on it bends far. */
const FAR = 0.1

const cutOff = (loads: readonly PointLoad[], length: number) => loads.map(l => ({ ...l, x: Math.min(l.x, length) }))

function farAt(bent: BentFar, x: number) {
  const { deflection, angle, moment, shear } = bent.at(x)
  return { deflection, slope: angle, moment, shear }
}

function spanOf(article: StaticArticle, support: StaticPlan['support']): SpanModel {
  // Each channel asks for every rung's loads: they are solved once.
  const known = new WeakMap<readonly PointLoad[], BentSpan>()
  const solve = (loads: readonly PointLoad[]): BentSpan => {
    const solved = bendArm(article, loads, support)
    // Beyond a tenth of the span a straight beam's sums no longer hold: loads come nearer to the root as it bends.
    const isFar = support === 'root' && Math.abs(solved.at(article.length).deflection) > FAR * article.length
    const far = isFar
      ? bendFar(article.length, x => article.modulus * sectionAt(article, x).inertia, cutOff(loads, article.length))
      : null
    return {
      isFar: far !== null,
      at(x) {
        const { deflection, slope, moment, shear } = far ? farAt(far, x) : solved.at(x)
        const { inertia, fibre } = sectionAt(article, x)
        return { deflection, slope, moment, shear, strain: (moment * fibre) / (article.modulus * inertia) }
      },
    }
  }
  return {
    length: article.length,
    support: support === 'root' ? 'cantilever' : 'simple',
    halfDepth: x => sectionAt(article, Math.min(Math.max(x, 0), article.length)).depth / 2,
    bend(loads) {
      const bent = known.get(loads) ?? solve(loads)
      known.set(loads, bent)
      return bent
    },
    failureOf(loads) {
      const total = loads.reduce((s, l) => s + l.force, 0)
      const solved = bendArm(
        article,
        loads.map(l => ({ x: l.x, force: l.force / total })),
        support,
      )
      const weakest = weakestPlace(
        article,
        x => solved.at(x),
        loads.map(l => Math.min(l.x, article.length)),
      )
      return { load: weakest.failureLoad, place: weakest.failurePlace, mode: weakest.failureMode }
    },
  }
}
