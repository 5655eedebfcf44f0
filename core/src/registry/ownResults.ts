import { HypometError } from '../error'
import type { ResultDeclaration } from '../method/results'
import { parseSettings } from '../method/settings'
import { asSetting, declaredOwn, withOwnResults, type DeclaredOwn } from '../own/declared'
import { ownField } from '../own/own'
import { outlineOf } from './catalogue'

/**
 * Declarations as entered, each looked over as settings would be. @throws HypometError `setting-range` and others at
 * `own.<row>`
 */
export function checkDeclared(entered: unknown, family: string): DeclaredOwn[] {
  const rows = parseSettings(declaredOwn, entered, 'own')
  const taken = Object.keys(outlineOf(family)?.results ?? {})
  for (const [i, { name }] of rows.entries())
    if (taken.includes(name) || rows.findIndex(r => r.name === name) < i)
      throw new HypometError('setting-range', `There is a result “${name}” already.`, { path: `own.${i}.name` })
  parseSettings(ownField, rows.map(asSetting), 'own')
  return rows as unknown as DeclaredOwn[]
}

/** Results of a kind of test, and those that an article has of its own. */
export function resultsOf(
  family: string,
  own: readonly DeclaredOwn[] | null | undefined,
): Record<string, ResultDeclaration> {
  return withOwnResults(outlineOf(family), own)?.results ?? {}
}
