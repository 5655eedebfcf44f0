import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpCrush } from './followUps'
import { crushFacts } from './facts'
import { crushFigures } from './figures'
import { crushLive } from './live'
import { crushPlan, crushPlanning, proposeCrush } from './plan'
import { reduceCrush } from './reduce'
import { crushSizing } from './sizing'
import { crushSpecimen } from './specimen'

/** Crush of tubes, foams and honeycombs: peak, plateau, how far it goes and what it takes. */
export const crush = defineFamily({
  id: 'crush',
  title: 'Crush',
  purpose: 'Force over displacement: initial peak, mean force, stroke and specific energy',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time', optional: true },
    force: { label: 'Force', kind: 'force' },
    displacement: {
      label: 'Displacement',
      kind: 'length',
      aliases: ['displ', 'travel', 'weg', 'stroke', 'stretch', 'platen'],
    },
  },
  settings,
  results: {
    specificEnergy: {
      label: 'Specific energy',
      kind: 'specificEnergy',
      limited: 'atLeast',
      driver: 'energy',
      how: 'Energy over the mass of what was crushed: linear mass times the way to densification.',
    },
    meanForce: {
      label: 'Mean crush force',
      kind: 'force',
      driver: 'energy',
      how: 'Energy from the initial peak to densification over that way.',
    },
    initialPeak: {
      label: 'Initial peak',
      kind: 'force',
      limited: 'atMost',
      driver: 'energy',
      how: 'The first maximum from which the force falls by a twentieth of it and a hundredth of the largest.',
    },
    energy: {
      label: 'Energy',
      kind: 'energy',
      limited: 'atLeast',
      driver: 'energy',
      how: 'Area under force over displacement from first contact to densification.',
    },
    densification: {
      label: 'Densification',
      kind: 'length',
      limited: 'atLeast',
      driver: 'energy',
      how: 'Where the energy so far over the force is largest; at least that where the test ended before.',
    },
    forceEfficiency: {
      label: 'Force efficiency',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'energy',
      how: 'Mean crush force over initial peak.',
    },
    strokeEfficiency: {
      label: 'Stroke efficiency',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'energy',
      how: 'Way to densification over the length.',
    },
  },
  reduce: reduceCrush,
  propose: proposeCrush,
  figures: crushFigures,
  checked: { load: 'force' },
  ownOfRecord: ['zeroStart'],
  set: {
    results: ['specificEnergy', 'meanForce', 'initialPeak', 'energy'],
    measure: { key: 'speed', label: 'Speed of the crush', kind: 'velocity' },
  },
  followUps: followUpCrush,
  stages: {
    facts: crushFacts,
    curves: {
      forceDisplacement: {
        title: 'Force over displacement',
        x: { label: 'Displacement', kind: 'length' },
        y: { label: 'Force', kind: 'force' },
      },
    },
    plan: crushPlan,
    planning: crushPlanning,
    specimen: crushSpecimen,
    live: crushLive,
    sizing: crushSizing,
  },
})
