import type { AnyFamily } from '../family/contract'
import type { ReduceContext, Table } from '../method/table'
import type { Reduction } from '../method/reduction'
import { withUncertainty } from './uncertainty'

/**
 * A reduction with the uncertainty of its results, where sensors are known.
 *
 * @throws HypometError of the family's reduction
 */
export const reduceTable = (family: AnyFamily, table: Table, settings: unknown, context: ReduceContext): Reduction =>
  withUncertainty(family, table, settings, context, family.reduce(table, settings, context))
