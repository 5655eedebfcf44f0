import * as z from 'zod'
import { energyAndStandoff } from '../../calc/planning/stored-energy'
import { plain, quantity } from '../../method/settings'
import type { Drawing, DrawingItem } from '../drawing'
import { box } from '../drawing'
import { stop, type Finding } from '../finding'
import { percent } from '../percent'
import { column, defineLoading, fact, type LoadingContext, type LoadingHazard, type SetColumn } from './loading'

const settings = z.object({
  fullSpeed: quantity('rotation', { title: 'Speed at full set-point', positive: true }),
  fullThrust: quantity('force', { title: 'Thrust there', positive: true }).optional(),
  fullPower: quantity('power', { title: 'Electrical power there', positive: true }).optional(),
  supplyVoltage: quantity('voltage', { title: 'Supply', positive: true }).optional(),
  currentLimit: quantity('current', { title: 'Current limit', positive: true }).optional(),
  rotorInertia: quantity('inertia', { title: 'Inertia of what turns', positive: true }),
  diameter: quantity('length', { title: 'Diameter of the rotor', positive: true }),
  largestStep: plain({ title: 'Largest step of the set-point', positive: true, max: 1 }).default(0.2),
})

type Settings = z.output<typeof settings>

/** Current of the supply at a share of full: power goes with the cube of speed. */
const currentAt = (s: Settings, share: number): number | null =>
  s.fullPower && s.supplyVoltage ? (s.fullPower / s.supplyVoltage) * share ** 3 : null

/** A motor, controller and rotor brought up in set-points; what comes next is expected before it is commanded. */
export const setpoints = defineLoading({
  kind: 'setpoints',
  title: 'Motor set-points',
  purpose: 'Speed, thrust, power and current at each set-point',
  settings,
  usual: { goal: 1, shares: [0.2, 0.35, 0.5, 0.65, 0.8, 0.9], hold: 30 },
  start: {},
  open: {
    fullSpeed: {
      title: 'The speed at full set-point',
      hangs: 'speeds, energy and stand-off',
      isNeeded: true,
      ofArticle: true,
    },
    rotorInertia: {
      title: 'The inertia of what turns',
      hangs: 'stored energy and stand-off',
      isNeeded: true,
      ofArticle: true,
    },
    diameter: {
      title: 'The rotor’s diameter',
      hangs: 'tip speed and the plane to keep clear',
      isNeeded: true,
      ofArticle: true,
    },
  },
  openHazard: { id: 'rotating', why: 'Nobody stands in the plane of the rotor.' },
  commanded: () => ({ role: 'setpoint', label: 'Set-point', kind: 'ratio' }),
  view(s, context) {
    const { rungs, top, show } = context
    const share = rungs[top]?.target ?? 0
    const speed = s.fullSpeed * share
    const spin =
      speed > 0 ? energyAndStandoff({ kind: 'rotor', inertia: s.rotorInertia, speed }) : { energy: 0, standoff: 3 }
    return {
      set: columnsOf(
        s,
        rungs.map(r => r.target),
      ),
      facts: [
        fact('Speed at the top', speed, 'rotation'),
        fact('Speed of the tips', (speed * s.diameter) / 2, 'velocity'),
        ...(currentAt(s, share) === null ? [] : [fact('Current at the top', currentAt(s, share), 'current')]),
      ],
      tables: [],
      hazards: hazardsOf(s, spin, show),
      findings: findings(s, context),
      drawing: drawBench(s, share, context),
    }
  },
})

/** What follows at each share of the set-point, as far as the full one is known. */
function columnsOf(s: Settings, shares: readonly number[]): SetColumn[] {
  const { fullThrust, fullPower } = s
  const currents = shares.map(share => currentAt(s, share))
  const speeds = shares.map(share => s.fullSpeed * share)
  const columns = [column('speed', 'Speed', 'rotation', speeds, { shown: true })]
  if (fullThrust)
    columns.push(
      column(
        'thrust',
        'Thrust',
        'force',
        shares.map(share => fullThrust * share ** 2),
      ),
    )
  if (fullPower)
    columns.push(
      column(
        'power',
        'Power',
        'power',
        shares.map(share => fullPower * share ** 3),
      ),
    )
  if (currentAt(s, 1) !== null) columns.push(column('current', 'Current', 'current', currents))
  return columns
}

/** Above this a supply is a hazard of its own, V. */
const TOUCHABLE = 60

function hazardsOf(
  { supplyVoltage }: Settings,
  { energy, standoff }: { energy: number; standoff: number },
  show: LoadingContext['show'],
): LoadingHazard[] {
  const why = `${show(energy, 'energy')} turn at the top set-point; nobody stands in the plane of the rotor.`
  const rotating: LoadingHazard = { id: 'rotating', energy, standoff, why }
  if (!supplyVoltage || supplyVoltage <= TOUCHABLE) return [rotating]
  const electric = { energy: null, standoff: null, why: `${show(supplyVoltage, 'voltage')} on the bench.` }
  return [rotating, { id: 'electric', ...electric }]
}

function findings(s: Settings, { rungs, show }: LoadingContext): Finding[] {
  return rungs.flatMap((r, i): Finding[] => {
    const path = `rungs.${r.source}.target`
    const current = currentAt(s, r.target)
    if (current !== null && s.currentLimit && current > s.currentLimit)
      return [
        stop(
          'over-current',
          path,
          `Set-point ${percent(r.target)} is expected to draw ${show(current, 'current')}; the limit is ` +
            `${show(s.currentLimit, 'current')}.`,
          `Up to ${percent(r.target * Math.cbrt(s.currentLimit / current))} it stays within.`,
        ),
      ]
    const step = r.target - (rungs[i - 1]?.target ?? 0)
    return step > s.largestStep + 1e-9
      ? [
          stop(
            'step-too-large',
            path,
            `From ${percent(rungs[i - 1]?.target ?? 0)} to ${percent(r.target)} at once: the largest step is ` +
              `${percent(s.largestStep)}.`,
            `Put a set-point at ${percent((rungs[i - 1]?.target ?? 0) + s.largestStep)} between.`,
          ),
        ]
      : []
  })
}

function drawBench(s: Settings, share: number, { show }: LoadingContext): Drawing {
  const D = s.diameter
  const items: DrawingItem[] = [
    { is: 'area', points: box(-D * 0.03, -D / 2, D * 0.03, D / 2), tone: 'article' },
    { is: 'area', points: box(D * 0.03, -D * 0.1, D * 0.35, D * 0.1), tone: 'article' },
    { is: 'area', points: box(D * 0.35, -D * 0.06, D * 0.6, D * 0.06), tone: 'soft' },
    { is: 'area', points: box(D * 0.6, -D * 0.2, D * 0.75, D * 0.72), tone: 'fixture' },
    {
      is: 'line',
      points: [
        [-D, D * 0.72],
        [D * 1.4, D * 0.72],
      ],
      tone: 'ground',
    },
    { is: 'text', at: [D * 0.475, -D * 0.12], text: 'cell', anchor: 'middle', tone: 'quiet' },
    {
      is: 'measure',
      from: [-D * 0.1, -D / 2],
      to: [-D * 0.1, D / 2],
      value: D,
      kind: 'length',
      tone: 'plain',
      side: 'left',
    },
    { is: 'turn', at: [0, -D * 0.62], value: s.fullSpeed * share, kind: 'rotation', tone: 'load' },
  ]
  if (s.fullThrust)
    items.push({
      is: 'force',
      at: [-D * 0.45, 0.12 * D],
      toward: [-1, 0],
      value: s.fullThrust * share ** 2,
      kind: 'force',
      share: 0.5,
      tone: 'load',
      name: 'thrust',
    })
  return {
    title: `Rotor of ${show(D, 'length')} on the thrust bench`,
    from: [-D, -D * 0.7],
    to: [D * 1.4, D * 0.72],
    toScale: true,
    items,
  }
}
