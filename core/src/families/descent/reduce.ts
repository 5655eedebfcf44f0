import { HypometError } from '../../error'
import { exact } from '../../calc/answer'
import type { Table } from '../../method/define'
import type { Reduction, Result } from '../../method/reduction'
import { STANDARD_GRAVITY } from '../../quantity/units'
import { windowRange } from '../../signal/window'
import { fitLine, type LineFit } from '../../statistics/line'
import { meanSd } from '../../statistics/mean'
import type { DescentSettings } from './index'

const SEA_LEVEL_DENSITY = 1.225
const LAPSE = 0.0065
const GAS_CONSTANT = 287.05287
const PRESSURE_EXPONENT = 5.25588
/** Before the stretch, s, over which its speed is taken. */
const BEFORE_STRETCH = 0.5

/** Density of air, kg/m³, at a height above where temperature and pressure were read. @source ISO 2533, troposphere */
function densityAt(height: number, { temperature, pressure }: Pick<DescentSettings, 'temperature' | 'pressure'>): number {
  const p = pressure * (1 - (LAPSE * height) / temperature) ** PRESSURE_EXPONENT
  return p / (GAS_CONSTANT * (temperature - LAPSE * height))
}

/**
 * Descent reduction: the steady rate gives the drag area; the opening is told by when the lines were stretched and the canopy full.
 * One density throughout, that of the steady window.
 *
 * @param table  altitude [m], riserForce [N, optional], t [s]
 * @throws HypometError `no-event` where it does not descend in the window, `setting-range` for a window without samples
 * @source methods.md, “descent”
 */
export function reduceDescent({ t, channels }: Table, s: DescentSettings): Reduction {
  const altitude = channels['altitude']!
  const { line, mean } = lineIn(t, altitude, s.steadyWindow, 'steadyWindow')
  const rate = -line.slope
  if (!(rate > 0)) throw new HypometError('no-event', 'It does not descend in the steady window.', { path: 'settings.steadyWindow' })
  const density = densityAt(mean, s)
  const dynamicPressure = (density * rate * rate) / 2
  const dragArea = (s.mass * STANDARD_GRAVITY) / dynamicPressure
  const results: Record<string, Result> = {
    density: exact(density, 'kg/m³'), descentRate: exact(rate, 'm/s'), dynamicPressure: exact(dynamicPressure, 'Pa'), dragArea: exact(dragArea, 'm²'),
    dragCoefficient: exact(dragArea / s.referenceArea, '1'), massRatio: exact((density * dragArea ** 1.5) / s.mass, '1'), seaLevelRate: exact(rate * Math.sqrt(density / SEA_LEVEL_DENSITY), 'm/s'),
  }
  const speed = stretchSpeed(t, altitude, s)
  if (speed !== null) results['stretchSpeed'] = exact(speed, 'm/s')
  if (s.stretchTime !== undefined && s.fullTime !== undefined) {
    const fillTime = s.fullTime - s.stretchTime
    if (!(fillTime > 0)) throw new HypometError('setting-range', 'The canopy is full after its lines are stretched.', { path: 'settings.fullTime' })
    results['fillTime'] = exact(fillTime, 's')
    if (speed !== null) results['fillConstant'] = exact((speed * fillTime) / Math.sqrt((4 * s.referenceArea) / Math.PI), '1')
  }
  const force = channels['riserForce']
  if (force) {
    const from = s.stretchTime === undefined ? 0 : windowRange(t, [s.stretchTime, Infinity])[0]
    if (from >= force.length) throw new HypometError('no-event', 'The record ends before the lines are stretched.', { path: 'settings.stretchTime' })
    const peak = force.subarray(from).reduce((m, v) => Math.max(m, v), -Infinity)
    results['peakOpeningForce'] = exact(peak, 'N')
    if (speed !== null) results['openingFactor'] = exact(peak / (0.5 * density * speed * speed * dragArea), '1')
  }
  return { results, tables: {}, warnings: [], traces: { t, altitude, ...(force ? { riserForce: force } : {}) } }
}

/** As given, else by the slope of the altitude just before; null where nothing says when the lines were stretched. */
function stretchSpeed(t: Float64Array, altitude: Float64Array, s: DescentSettings): number | null {
  if (s.stretchSpeed !== undefined) return s.stretchSpeed
  return s.stretchTime === undefined ? null : -lineIn(t, altitude, [s.stretchTime - BEFORE_STRETCH, s.stretchTime], 'stretchTime').line.slope
}

function lineIn(t: Float64Array, y: Float64Array, window: readonly [number, number], setting: string): { line: LineFit; mean: number } {
  const [from, to] = windowRange(t, window)
  if (to - from < 2) throw new HypometError('setting-range', 'Fewer than two samples lie there.', { path: `settings.${setting}` })
  return { line: fitLine(t.subarray(from, to), y.subarray(from, to)), mean: meanSd(y.subarray(from, to)).mean }
}
