import type { Correlation, Input } from '../uncertainty/propagate'
import type { Role, Table, TimeBase } from './table'
import type { Reduction } from './reduction'
import type { z } from 'zod'

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

export const defineCalc = <S extends z.ZodType>(calc: Calculation<S>): Calculation<S> => calc
