import normalCdf from '@stdlib/stats-base-dists-normal-cdf'
import normalQuantile from '@stdlib/stats-base-dists-normal-quantile'
import { HypometError } from '../error'
import { meanSd } from './mean'

/** A value that was reached and, where `isBound`, passed without failure: right-censored. */
export interface Observation {
  value: number
  isBound: boolean
}

export interface ScaleFit {
  location: number
  scale: number
  /** 95 % intervals (Wald; of the scale on its logarithm). */
  locationInterval: [number, number]
  scaleInterval: [number, number]
  /** Observed information inverted, in (location, ln scale). */
  covariance: [[number, number], [number, number]]
  logLikelihood: number
}

/**
 * First and second derivative and value of ln density (failure) or ln survival (bound) of the standardised variable.
 */
export interface Family {
  failure(z: number): [value: number, d1: number, d2: number]
  bound(z: number): [value: number, d1: number, d2: number]
}

export const CENSORED_NORMAL: Family = {
  failure: z => [(-z * z) / 2 - 0.5 * Math.log(2 * Math.PI), -z, -1],
  bound: z => {
    const survival = normalCdf(-z, 0, 1)
    // Far out the hazard tends to z + 1/z, where the survival itself underflows.
    const hazard = z > 30 ? z + 1 / z : Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI) / survival
    return [
      z > 30 ? (-z * z) / 2 - Math.log(z * Math.sqrt(2 * Math.PI)) : Math.log(survival),
      -hazard,
      -hazard * (hazard - z),
    ]
  },
}

const SMALLEST_EXTREME: Family = {
  failure: z => [z - Math.exp(z), 1 - Math.exp(z), -Math.exp(z)],
  bound: z => [-Math.exp(z), -Math.exp(z), -Math.exp(z)],
}

/**
 * Normal distribution by maximum likelihood, lower bounds taken as such. Without bounds: the mean, and the standard
 * deviation with n in the denominator.
 *
 * @throws HypometError `too-few` below two failures
 * @source Lawless, Statistical Models and Methods for Lifetime Data, ch. 5
 */
export const fitNormal = (observations: readonly Observation[]): ScaleFit => maximise(observations, CENSORED_NORMAL, 1)

export interface WeibullFit extends ScaleFit {
  /** Characteristic value η and shape β, with their 95 % intervals. */
  eta: number
  beta: number
  etaInterval: [number, number]
  betaInterval: [number, number]
}

/** Weibull distribution by maximum likelihood on ln values (smallest extreme value), lower bounds taken as such. */
export function fitWeibull(observations: readonly Observation[]): WeibullFit {
  if (observations.some(o => !(o.value > 0)))
    throw new HypometError('data-range', 'A Weibull distribution wants values above zero.')
  const fit = maximise(
    observations.map(o => ({ ...o, value: Math.log(o.value) })),
    SMALLEST_EXTREME,
    Math.sqrt(6) / Math.PI,
  )
  const {
    location,
    scale,
    locationInterval: [a, b],
    scaleInterval: [c, d],
  } = fit
  return {
    ...fit,
    eta: Math.exp(location),
    beta: 1 / scale,
    etaInterval: [Math.exp(a), Math.exp(b)],
    betaInterval: [1 / d, 1 / c],
  }
}

/** Newton in (location, ln scale), steps halved until the likelihood rises. */
function maximise(observations: readonly Observation[], family: Family, startFactor: number): ScaleFit {
  const failures = observations.filter(o => !o.isBound)
  if (failures.length < 2 || failures.every(o => o.value === failures[0]!.value))
    throw new HypometError(
      'too-few',
      'At least two different failures are needed; bounds alone say nothing of the spread.',
    )
  const { mean, sd } = meanSd(observations.map(o => o.value))
  let at = { location: mean, log: Math.log((sd || 1) * startFactor) }
  let now = likelihood(observations, family, at)
  for (let i = 0; i < 200; i++) {
    const step = newton(now)
    let scale = 1
    let next = now
    for (; scale > 1e-10; scale /= 2) {
      const trial = { location: at.location + scale * step.location, log: at.log + scale * step.log }
      next = likelihood(observations, family, trial)
      if (next.value >= now.value - 1e-13 * Math.abs(now.value)) {
        at = trial
        break
      }
    }
    const done = Math.abs(step.location * scale) <= 1e-13 * Math.exp(at.log) && Math.abs(step.log * scale) <= 1e-13
    now = next
    if (done || scale <= 1e-10) break
  }
  return described(at, now)
}

interface Likelihood {
  value: number
  gradient: [number, number]
  hessian: [number, number, number]
}

function likelihood(
  observations: readonly Observation[],
  family: Family,
  { location, log }: { location: number; log: number },
): Likelihood {
  const scale = Math.exp(log)
  let [value, gl, gs, hll, hls, hss] = [0, 0, 0, 0, 0, 0]
  for (const { value: y, isBound } of observations) {
    const z = (y - location) / scale
    const [v, d1, d2] = isBound ? family.bound(z) : family.failure(z)
    value += v - (isBound ? 0 : log)
    gl -= d1 / scale
    gs -= d1 * z + (isBound ? 0 : 1)
    hll += d2 / scale ** 2
    hls += (d2 * z + d1) / scale
    hss += d2 * z * z + d1 * z
  }
  return { value, gradient: [gl, gs], hessian: [hll, hls, hss] }
}

/** Newton's step; where the surface is not concave, along the gradient. */
function newton({ gradient: [gl, gs], hessian: [a, b, c] }: Likelihood): { location: number; log: number } {
  const determinant = a * c - b * b
  if (!(a < 0 && determinant > 0))
    return { location: gl / Math.max(1e-300, Math.abs(a)), log: Math.max(-0.5, Math.min(0.5, gs)) }
  return { location: (-c * gl + b * gs) / determinant, log: Math.max(-1, Math.min(1, (b * gl - a * gs) / determinant)) }
}

function described(
  { location, log }: { location: number; log: number },
  { value, hessian: [a, b, c] }: Likelihood,
): ScaleFit {
  const determinant = a * c - b * b
  const covariance: ScaleFit['covariance'] = [
    [-c / determinant, b / determinant],
    [b / determinant, -a / determinant],
  ]
  const z = normalQuantile(0.975, 0, 1)
  const [sl, ss] = [z * Math.sqrt(covariance[0][0]), z * Math.sqrt(covariance[1][1])]
  return {
    location,
    scale: Math.exp(log),
    locationInterval: [location - sl, location + sl],
    scaleInterval: [Math.exp(log - ss), Math.exp(log + ss)],
    covariance,
    logLikelihood: value,
  }
}
