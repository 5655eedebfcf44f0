import * as z from 'zod'
import { HypometError, isHypometError } from '../error'
import { unitOfExpression, valuesOf } from '../expression/derived'
import { namesIn, parse } from '../expression/parse'
import { DIMENSIONLESS } from '../quantity/dimension'
import { findUnit, sameDimension, siUnit } from '../quantity/index'
import { KINDS } from '../quantity/kinds'
import type { Role, Table } from './table'
import { parseSettings } from './settings'

/**
 * Channels that are worked out from others before anything else is done with a record: a frame’s motion taken off, a
 * mean of two.
 */
export const deriveField = z
  .array(
    z.object({
      role: z.string().min(1).meta({ title: 'Channel' }),
      expression: z.string().min(1).meta({ title: 'is worked out as' }),
    }),
  )
  .default([])
  .meta({ title: 'Derived channels' })

/**
 * A table with its derived channels, each of which may read those before it; a role that is there already is taken for
 * the reduction in its new form. What is asked stands under `derive` in the settings of any kind of test.
 *
 * @param entered  settings as entered
 * @throws HypometError `unknown-channel`, `unit-dimension`, `expression` at its row
 */
export function withDerived(table: Table, roles: Record<string, Role>, entered: unknown): Table {
  const written = (entered as { derive?: unknown } | null | undefined)?.derive
  if (written === undefined || written === null) return table
  const asked = parseSettings(deriveField, written, 'settings.derive')
  return asked.reduce((now, { role, expression }, i) => {
    try {
      return derived(now, roles, role, expression)
    } catch (e) {
      throw isHypometError(e) ? e.at({ path: `settings.derive.${i}.expression` }) : e
    }
  }, table)
}

function derived(table: Table, roles: Record<string, Role>, role: string, expression: string): Table {
  const { t, channels, units } = table
  const names = namesIn(parse(expression))
  const missing = names.find(n => !Object.hasOwn(channels, n))
  if (missing !== undefined)
    throw new HypometError(
      'unknown-channel',
      `“${missing}” is no channel of this record; it has ${Object.keys(channels).join(', ')}.`,
    )
  const unit = names.every(n => units[n]) ? unitOfExpression(expression, units) : null
  const kind = roles[role]?.kind
  if (
    unit !== null &&
    kind &&
    kind !== 'any' &&
    kind !== 'text' &&
    !sameDimension(findUnit(unit)?.dimension ?? DIMENSIONLESS, KINDS[kind].dimension)
  )
    throw new HypometError(
      'unit-dimension',
      `“${expression}” is in ${unit}; ${roles[role]!.label.toLowerCase()} is in ${siUnit(kind)}.`,
    )
  return {
    ...table,
    channels: { ...channels, [role]: valuesOf(expression, t, channels) },
    units: { ...units, [role]: unit ?? units[role] ?? '' },
  }
}
