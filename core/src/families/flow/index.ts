import { flowDoubt } from './doubt'
import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { type Role } from '../../method/table'
import { reduceBench } from './bench'
import { flowFacts } from './facts'
import { flowFigures } from './figures'
import { reduceMap } from './map'
import { flowLive } from './live'
import { flowPlan, flowPlanning, proposeFlow, rowsFromRun } from './plan'
import { flowSizing } from './sizing'
import { flowSpecimen } from './specimen'

const air: Record<string, Role> = {
  temperature: { label: 'Air temperature', kind: 'temperature', optional: true },
  baro: { label: 'Barometer', kind: 'pressure', optional: true },
}
const bench: Record<string, Role> = {
  config: { label: 'Configuration', kind: 'text', aliases: ['config', 'port', 'runner', 'head'] },
  lift: { label: 'Lift', kind: 'length', aliases: ['lift', 'hub'] },
  flow: { label: 'Flow', kind: 'volumeFlow', aliases: ['flow', 'durchfluss'] },
  drop: { label: 'Pressure difference', kind: 'pressure', aliases: ['drop', 'diff', 'dp'] },
  ...air,
}
const map: Record<string, Role> = {
  x: { label: 'x', kind: 'length' },
  y: { label: 'y', kind: 'length' },
  q: { label: 'Dynamic pressure', kind: 'pressure', aliases: ['q', 'dyn', 'pitot', 'probe'], optional: true },
  v: { label: 'Velocity', kind: 'velocity', optional: true },
  config: { ...bench['config']!, optional: true },
  ...air,
}
/** A bench that reads shares of its range. */
const shares: Record<string, Role> = { ...bench, flow: { ...bench['flow']!, kind: 'any' } }

/** Flow bench: corrected flow over lift of several configurations; or the velocities of a probe map. */
export const flow = defineFamily({
  id: 'flow',
  title: 'Flow',
  purpose: 'Corrected flow over lift, gain point by point; or a map of velocities',
  version: '1.1.0',
  roles: bench,
  rolesOf: s => (s.kind === 'map' ? map : s.benchRange === undefined ? bench : shares),
  settings,
  results: {
    meanFlow: {
      label: 'Mean flow',
      kind: 'volumeFlow',
      limited: 'atLeast',
      driver: 'flow',
      how:
        'Area under corrected flow over lift, over the range of lifts. Corrected: less the leak, at the ' +
        'reference pressure difference.',
    },
    gain: {
      label: 'Gain in mean flow',
      kind: 'volumeFlow',
      limited: 'atLeast',
      driver: 'flow',
      how: 'Mean flow of what is compared less that of the baseline.',
    },
    worstLoss: {
      label: 'Largest loss at one lift',
      kind: 'volumeFlow',
      limited: 'atMost',
      driver: 'flow',
      how:
        'Largest baseline less compared at the baseline’s lifts that the other was read over; below nothing where ' +
        'it gained everywhere.',
    },
    worstLift: { label: 'Lift of the largest loss', kind: 'length', how: 'Where that is.' },
    worstLossInRange: {
      label: 'Largest loss inside the range',
      kind: 'volumeFlow',
      limited: 'atMost',
      driver: 'flow',
      how: 'The same at the lifts that the mean is taken over.',
    },
    worstLiftInRange: { label: 'Lift of that', kind: 'length', how: 'Where that is.' },
    configSpread: {
      label: 'Spread of mean flows',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'flow',
      how:
        'Largest less smallest mean flow of the configurations over their mean: from port to port, or from ' +
        'runner to runner.',
    },
    meanVelocity: { label: 'Mean velocity', kind: 'velocity', how: 'Mean over the places of √(2q/ρ).' },
    peakVelocity: { label: 'Largest velocity', kind: 'velocity', limited: 'atMost', how: 'The largest of them.' },
    uniformity: {
      label: 'Uniformity',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'flow',
      how: 'One less the mean distance from the mean velocity, over twice that mean.',
    },
    peakToMean: {
      label: 'Peak over mean',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'flow',
      how: 'Largest over mean velocity.',
    },
    hotVelocity: { label: 'Velocity of the hot place', kind: 'velocity', how: 'The largest of what is compared.' },
    hotAtBaseline: {
      label: 'What became of the baseline’s hot place',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'flow',
      how: 'Velocity where the baseline had its largest, over the mean.',
    },
    hotX: { label: 'Hot place of what is compared, x', kind: 'length', how: 'Where its largest velocity was read.' },
    hotY: { label: 'Hot place of what is compared, y', kind: 'length', how: 'Where its largest velocity was read.' },
    peakX: { label: 'Hot place, x', kind: 'length', how: 'Where the largest velocity was read.' },
    peakY: { label: 'Hot place, y', kind: 'length', how: 'Where the largest velocity was read.' },
  },
  reduce: (table, s) => (s.kind === 'map' ? reduceMap(table, s) : reduceBench(table, s)),
  doubt: flowDoubt,
  propose: proposeFlow,
  figures: flowFigures,
  ownOfRecord: ['kind', 'baseline', 'subject'],
  configOf: ({ subject }) => (typeof subject === 'string' ? subject : null),
  links: { liftRange: 'window', referenceDrop: 'filter' },
  fromRun: rowsFromRun,
  set: { results: ['meanFlow', 'gain', 'worstLoss', 'peakVelocity', 'uniformity'] },
  stages: {
    facts: flowFacts,
    curves: {
      liftFlow: {
        title: 'Flow over lift',
        x: { label: 'Lift', kind: 'length' },
        y: { label: 'Corrected flow', kind: 'volumeFlow' },
      },
    },
    plan: flowPlan,
    planning: flowPlanning,
    specimen: flowSpecimen,
    live: flowLive,
    sizing: flowSizing,
  },
})
