import type { PredictedValue } from '../../method/prediction'
import type { ArticleModel, BentSpan, Loaded, PointLoad, SpanModel } from '../../plan/model'
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
      ...(designLoad === undefined ? [] : [predicted('deflectionAtDesign', designLoad * arm.compliance)]),
      predicted('maxLoad', arm.failureLoad),
    ],
    curves: { loadDeflection: { x: [0, maxTarget * arm.compliance], y: [0, maxTarget] } },
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

function spanOf(article: StaticArticle, support: StaticPlan['support']): SpanModel {
  // Each channel asks for every rung's loads: they are solved once.
  const known = new WeakMap<readonly PointLoad[], BentSpan>()
  const solve = (loads: readonly PointLoad[]): BentSpan => {
    const solved = bendArm(article, loads, support)
    return {
      at(x) {
        const { deflection, slope, moment, shear } = solved.at(x)
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
