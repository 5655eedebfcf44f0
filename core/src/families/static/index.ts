import { defineFamily } from '../../family/contract'
import { handover } from './handover'
import { staticArticle } from './article'
import { followUpStatic } from './followUps'
import { staticFacts } from './facts'
import { staticFigures } from './figures'
import { staticModel } from './model'
import { staticPlan, staticPlanning } from './plan'
import { proposeStatic } from './propose'
import { reduceStatic } from './reduce'
import { staticSettings } from './settings'
import { staticSizing } from './sizing'
import { staticSpecimen } from './specimen'

/** Static load on a beam, wing, arm or deck: deflection, stiffness, set and strength. */
export const staticLoad = defineFamily({
  id: 'static',
  title: 'Static load',
  purpose: 'Load in steps: how far it bends, how much stays, what it carries',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    load: { label: 'Load', kind: 'force' },
    deflection: {
      label: 'Deflection',
      kind: 'length',
      aliases: ['defl', 'displ', 'travel', 'weg', 'tip', 'sag', 'lvdt', 'string'],
    },
    '*': { label: 'Any other channel', kind: 'any', optional: true },
  },
  settings: staticSettings,
  results: {
    maxLoad: {
      label: 'Largest load',
      kind: 'force',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'The largest load; at least that unless the article ended the test.',
    },
    loadFactor: {
      label: 'Load factor',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'Largest load over design load.',
    },
    deflectionAtDesign: {
      label: 'Deflection at design load',
      kind: 'length',
      limited: 'atMost',
      driver: 'stiffness',
      how: 'Where the rising load first passes the design load, straight between samples, zero taken off.',
    },
    stiffness: {
      label: 'Stiffness',
      kind: 'stiffness',
      limited: 'atLeast',
      driver: 'stiffness',
      how: 'Least squares of load on deflection, 10 to 60 % of the largest load, way up.',
    },
    nonlinearity: {
      label: 'Nonlinearity',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'stiffness',
      how: 'Largest distance from that line, over the deflection at the end of its window.',
    },
    permanentSet: {
      label: 'Permanent set',
      kind: 'length',
      limited: 'atMost',
      driver: 'set',
      how: 'Mean of the last zero less mean of the first.',
    },
    setRatio: {
      label: 'Set ratio',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'set',
      how: 'Permanent set over the largest deflection.',
    },
  },
  reduce: reduceStatic,
  propose: proposeStatic,
  figures: staticFigures,
  checked: { load: 'load', straight: { key: 'stiffnessRange', over: 'deflection' } },
  ownOfRecord: ['zeroStart', 'zeroEnd', 'outcome'],
  links: { minHold: 'window', holdTolerance: 'window' },
  set: { results: ['maxLoad', 'stiffness', 'deflectionAtDesign', 'permanentSet'] },
  followUps: followUpStatic,
  stages: {
    facts: staticFacts,
    article: staticArticle,
    curves: {
      loadDeflection: {
        title: 'Load over deflection',
        x: { label: 'Deflection', kind: 'length' },
        y: { label: 'Load', kind: 'force' },
      },
    },
    plan: staticPlan,
    planning: staticPlanning,
    model: staticModel,
    specimen: staticSpecimen,
    handover,
    sizing: staticSizing,
  },
})
