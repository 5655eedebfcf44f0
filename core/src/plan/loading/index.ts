import type * as z from 'zod'
import { bags } from './bags'
import { bladder } from './bladder'
import { canopy } from './canopy'
import { direct } from './direct'
import { drop } from './drop'
import { flow } from './flow'
import type { Loading } from './loading'
import { points } from './points'
import { pull } from './pull'
import { setpoints } from './setpoints'
import { shaker } from './shaker'
import { stations } from './stations'
import { torque } from './torque'
import { vessel } from './vessel'

/** Each gets back what its own schema parsed. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the list forgets which settings are whose
export type AnyLoading = Loading<z.ZodType<any>>

export const loadingList = [
  points,
  bags,
  stations,
  bladder,
  vessel,
  drop,
  pull,
  torque,
  shaker,
  flow,
  setpoints,
  canopy,
  direct,
] as unknown as AnyLoading[]

export const LOADING_KINDS = [
  'points',
  'bags',
  'stations',
  'bladder',
  'vessel',
  'drop',
  'pull',
  'torque',
  'shaker',
  'flow',
  'setpoints',
  'canopy',
  'direct',
] as const
export type LoadingKind = (typeof LOADING_KINDS)[number]

export const loadings = Object.fromEntries(loadingList.map(l => [l.kind, l])) as Record<LoadingKind, AnyLoading>
