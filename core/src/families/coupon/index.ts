import { couponDoubt } from './doubt'
import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { type Role } from '../../method/table'
import { followUpCoupon, couponConstants } from './followUps'
import { couponFacts } from './facts'
import { couponFigures } from './figures'
import { couponFromRun, couponPlan, couponPlanning, proposeCoupon } from './plan'
import { reduceCoupons } from './reduce'
import { couponSpecimen } from './specimen'

const size = (label: string, ...aliases: string[]): Role => ({
  label,
  kind: 'length',
  ...(aliases.length > 0 ? { aliases } : {}),
})
const free = (role: Role): Role => ({ ...role, optional: true })

const roles: Record<string, Role> = {
  specimen: { label: 'Specimen', kind: 'text', aliases: ['spec', 'sample', 'coupon', 'probe', 'id'] },
  thickness: size('Thickness', 'thick', 'dicke'),
  width: size('Width', 'width', 'breite', 'w'),
  ultimateForce: free({ label: 'Ultimate force', kind: 'force', aliases: ['ult', 'max'] }),
  forceLow: free({ label: 'Force at the chord’s lower end', kind: 'force' }),
  forceHigh: free({ label: 'Force at its upper end', kind: 'force' }),
  force: free({ label: 'Force', kind: 'force' }),
  strain: free({ label: 'Strain', kind: 'strain' }),
  strainTransverse: free({ label: 'Strain across', kind: 'strain' }),
  displacement: free(size('Displacement', 'displ', 'travel', 'weg', 'stroke')),
  failure: { label: 'How it failed', kind: 'text', aliases: ['fail', 'mode', 'bruch'], optional: true },
}

/** Coupons that feed a model: modulus, strength, shear and bearing, with basis values. */
export const coupon = defineFamily({
  id: 'coupon',
  title: 'Coupon',
  purpose: 'Modulus and strength of a set with spread, outliers and basis values',
  version: '1.1.0',
  roles,
  rolesOf: s => (s.kind === 'bearing' ? { ...roles, width: free(roles['width']!) } : roles),
  settings,
  results: {
    strengthMean: {
      label: 'Mean strength',
      kind: 'pressure',
      limited: 'atLeast',
      driver: 'strength',
      how: 'Mean of the specimens’ strengths: the largest stress; for bearing that at the offset.',
    },
    basisB: {
      label: 'B-basis strength',
      kind: 'pressure',
      limited: 'atLeast',
      driver: 'strength',
      how: 'Mean − k·s: 90 % exceed it, with 95 % confidence.',
    },
    basisA: {
      label: 'A-basis strength',
      kind: 'pressure',
      limited: 'atLeast',
      driver: 'strength',
      how: 'Mean − k·s: ninety-nine in a hundred lie above it, with 95 % confidence.',
    },
    modulusMean: {
      label: 'Mean modulus',
      kind: 'pressure',
      limited: 'atLeast',
      driver: 'stiffness',
      how: 'Mean of the chord moduli between two strains.',
    },
    strengthSd: { label: 'Standard deviation of the strength', kind: 'pressure', how: 'With n − 1.' },
    strengthCv: {
      label: 'Spread of the strength',
      kind: 'ratio',
      limited: 'atMost',
      how: 'Standard deviation over mean.',
    },
    modulusSd: { label: 'Standard deviation of the modulus', kind: 'pressure', how: 'With n − 1.' },
    modulusCv: {
      label: 'Spread of the modulus',
      kind: 'ratio',
      limited: 'atMost',
      how: 'Standard deviation over mean.',
    },
    n: { label: 'Specimens', kind: 'ratio', isCount: true, how: 'Rows of one name count as one.' },
    outliers: {
      label: 'Outliers',
      kind: 'ratio',
      isCount: true,
      how: 'By the largest normed residual at 5 %, again after each; they stay in the statistics.',
    },
  },
  reduce: reduceCoupons,
  doubt: couponDoubt,
  propose: proposeCoupon,
  figures: couponFigures,
  ownOfRecord: ['kind', 'diameter', 'span'],
  links: { chord: 'window', offset: 'window' },
  set: { results: ['strengthMean', 'modulusMean', 'basisB'], alike: 'kind' },
  constants: couponConstants,
  fromRun: couponFromRun,
  followUps: followUpCoupon,
  stages: {
    facts: couponFacts,
    curves: {
      stressStrain: {
        title: 'Stress over strain',
        x: { label: 'Strain', kind: 'strain' },
        y: { label: 'Stress', kind: 'pressure' },
      },
    },
    plan: couponPlan,
    planning: couponPlanning,
    specimen: couponSpecimen,
  },
})
