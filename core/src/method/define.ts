import type { z } from 'zod'
import type { Kind } from '../quantity/index'
import type { Reduction } from './reduction'
import type { Correlation, Input } from '../uncertainty/propagate'
import type { SensorSpecification } from '../uncertainty/sensor'
import type { SpecimenMemory } from '../rig/specimen'
import type { Stages } from './stages'

/** A role that a family reads. `kind: 'any'` takes every unit; `optional` roles may be left out. */
export interface Role {
  label: string
  kind: Kind | 'any' | 'text'
  optional?: boolean
}

export interface ResultDeclaration {
  label: string
  kind: Kind
  /** Which way a limit on it usually points; results without it are rarely limited. */
  limited?: 'atLeast' | 'atMost'
}

/** Aligned SI columns of one record; gaps in free roles are NaN. `units` holds the SI unit of each role. */
export interface Table {
  t: Float64Array
  channels: Record<string, Float64Array>
  units: Record<string, string>
  /** Columns of words, row by row. */
  text?: Record<string, string[]>
}

/** What is known beside the record: the sensors behind the roles. */
export interface ReduceContext {
  sensors: Record<string, SensorSpecification>
}

/** What a record of one kind of test is made of: results from channels and settings. */
export interface Reducer<S extends z.ZodType = z.ZodType> {
  id: string
  title: string
  purpose: string
  version: string
  /** `*` takes free roles. */
  roles: Record<string, Role>
  /** Where the settings say what is read: other roles, or null for no record at all. */
  rolesOf?(settings: z.output<S>): Record<string, Role> | null
  timeBase?: TimeBase
  settings: S
  results: Record<string, ResultDeclaration>
  reduce(table: Table, settings: z.output<S>, context: ReduceContext): Reduction
}

export interface Family<S extends z.ZodType = z.ZodType, P extends z.ZodType = z.ZodType, A extends z.ZodType = z.ZodType, Truth = unknown, Memory extends SpecimenMemory = SpecimenMemory> extends Reducer<S> {
  stages: Stages<z.output<S>, P, A, Truth, Memory>
}

/** A family as general code holds it: what its own schemas parsed goes back into its own functions. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the registry forgets which family's types they are
export type AnyFamily = Family<any, any, any, any, any>

/** `as-read` leaves rows with a gap out; `even` wants an even time base and fills short gaps. */
export type TimeBase = 'as-read' | 'even'

export interface Calculation<S extends z.ZodType = z.ZodType> {
  id: string
  title: string
  purpose: string
  version: string
  settings: S
  /** Where the calculation reads a record: its roles, as for a family. */
  roles?: Record<string, Role>
  timeBase?: TimeBase
  /** Settings that show what the calculation does; a worksheet begins with them. */
  example?: z.input<S>
  /** What the results and table columns are called, where their keys do not say it. */
  labels?: Readonly<Record<string, string>>
  /** The model behind the result, where it can also be had by drawing from its inputs. */
  model?(settings: z.output<S>): SampledModel | null
  /** Drawings that follow from the settings, to be taken along. */
  files?(settings: z.output<S>): { name: string; mime: string; text: string }[]
  /** Without roles the table is empty. */
  calculate(settings: z.output<S>, table: Table): Omit<Reduction, 'traces'>
}

/** A measurand of uncertain inputs, for Monte Carlo. */
export interface SampledModel {
  value(x: ArrayLike<number>): number
  inputs: Input[]
  correlations: Correlation[]
  /** SI unit of the measurand. */
  unit: string
}

export const defineFamily = <S extends z.ZodType, P extends z.ZodType, A extends z.ZodType, Truth, Memory extends SpecimenMemory>(family: Family<S, P, A, Truth, Memory>): Family<S, P, A, Truth, Memory> => family

export const defineReducer = <S extends z.ZodType>(reducer: Reducer<S>): Reducer<S> => reducer

export const defineCalc = <S extends z.ZodType>(calc: Calculation<S>): Calculation<S> => calc
