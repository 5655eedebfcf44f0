import { defineFamily } from '../../method/define'
import { adviseStatic } from './advise'
import { staticArticle } from './article'
import { loadDeflectionFigure } from './figures'
import { staticModel } from './model'
import { staticPlan, staticPlanning } from './plan'
import { proposeSettings } from './propose'
import { reduceStatic } from './reduce'
import { staticSettings } from './settings'
import { staticSpecimen } from './specimen'

/** Static load on a beam, wing, arm or deck: deflection, stiffness, set and strength. */
export const staticLoad = defineFamily({
  id: 'static',
  title: 'Static load',
  purpose: 'Load in steps: how far it bends, how much stays, what it carries',
  version: '1.0.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    load: { label: 'Load', kind: 'force' },
    deflection: { label: 'Deflection', kind: 'length' },
    '*': { label: 'Any other channel', kind: 'any', optional: true },
  },
  settings: staticSettings,
  results: {
    maxLoad: { label: 'Largest load', kind: 'force', limited: 'atLeast' },
    loadFactor: { label: 'Load factor', kind: 'ratio', limited: 'atLeast' },
    deflectionAtDesign: { label: 'Deflection at design load', kind: 'length', limited: 'atMost' },
    stiffness: { label: 'Stiffness', kind: 'stiffness', limited: 'atLeast' },
    nonlinearity: { label: 'Nonlinearity', kind: 'ratio', limited: 'atMost' },
    permanentSet: { label: 'Permanent set', kind: 'length', limited: 'atMost' },
    setRatio: { label: 'Set ratio', kind: 'ratio', limited: 'atMost' },
  },
  reduce: reduceStatic,
  stages: {
    article: staticArticle,
    curves: { loadDeflection: { title: 'Load over deflection', x: { label: 'Deflection', kind: 'length' }, y: { label: 'Load', kind: 'force' } } },
    plan: staticPlan,
    planning: staticPlanning,
    model: staticModel,
    specimen: staticSpecimen,
    proposeSettings,
    figures: (reduction, settings) => ({ loadDeflection: loadDeflectionFigure(reduction, settings) }),
    advise: adviseStatic,
  },
})
