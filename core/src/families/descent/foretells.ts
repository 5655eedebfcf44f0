import type { Foretold } from '../../family/stages'
import { canopyPredictions, forecastCanopy, landingArea, type CanopySettings } from '../../plan/loading/canopy'
import { topOf } from '../../plan/plan'
import type { DescentPlan } from './plan'

/** Rate, opening load and landing area from the highest exit, to be locked before it is let go. */
export function descentForetells(plan: DescentPlan): Foretold {
  const none = { predictions: [], curves: {}, source: '' }
  if (plan.loading.kind !== 'canopy') return none
  const settings = plan.loading.settings as CanopySettings
  const height = plan.rungs[topOf(plan.rungs)]!.target
  const forecast = forecastCanopy(settings, plan, height)
  if (!forecast) return none
  const area = landingArea(forecast)
  return {
    predictions: canopyPredictions(settings, plan, height),
    curves: area ? { landingArea: area } : {},
    source: 'way down through the wind',
  }
}
