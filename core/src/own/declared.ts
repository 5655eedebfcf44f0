import * as z from 'zod'
import type { FamilyOutline } from '../method/familyOutline'
import type { CurveOutline } from '../method/prediction'
import type { MethodOutput } from '../method/reduction'
import type { ResultDeclaration } from '../method/results'
import { KINDS, type Kind } from '../quantity/kinds'
import { lookUp } from '../quantity/lookUp'

/** A result of one’s own as it is declared for an article: as entered, with what it measures. */
export interface DeclaredOwn {
  name: string
  channel?: string | undefined
  expression?: string | undefined
  at: unknown
  zero?: unknown
  kind: Kind
  /** Which way limits on it point. */
  limited?: 'atLeast' | 'atMost' | undefined
}

const kinds = Object.keys(KINDS) as [Kind, ...Kind[]]

export const declaredOwn = z
  .array(
    z.looseObject({
      name: z.string().trim().min(1).max(80),
      kind: z.enum(kinds),
      limited: z.enum(['atLeast', 'atMost']).optional(),
    }),
  )
  .max(200)

/** A declaration as settings ask for it. */
export function asSetting(declared: Readonly<Record<string, unknown>>): Record<string, unknown> {
  const { kind: _, limited: __, ...own } = declared
  return own
}

/** An outline with what an article has of its own; none where the kind of test is not known. */
export function withOwnResults<O extends Pick<FamilyOutline, 'results'> & Partial<FamilyOutline>>(
  outline: O | null,
  own: readonly DeclaredOwn[] | null | undefined,
): O | null {
  if (!outline || !own || own.length === 0) return outline
  const further = own.map(o => [o.name, declarationOf(o)] as const)
  const results = { ...outline.results, ...Object.fromEntries(further) }
  if (!outline.curves) return { ...outline, results }
  const drawn = own.flatMap(o => (c => (c ? [[ownFigure(o.name, o.at), c] as const] : []))(curveOf(o, outline.guide)))
  return { ...outline, results, curves: { ...outline.curves, ...Object.fromEntries(drawn) } }
}

/** A curve that a prediction may be given as, drawn beside what the result is read from. */
function curveOf({ name, at, kind }: DeclaredOwn, guide: FamilyOutline['guide'] | undefined): CurveOutline | null {
  if (typeof at === 'object' && at !== null && 'slope' in at) return null
  const x = isOverLoad(at) ? guide : { label: 'Time', kind: 'time' as const }
  return x ? { title: ownFigure(name, at), x, y: { label: name, kind } } : null
}

/** Whether a place is told by the load. */
export const isOverLoad = (at: unknown): boolean =>
  at === 'peak' || (typeof at === 'object' && at !== null && ('load' in at || 'rung' in at))

/** What the figure of a result of one’s own is called. */
export const ownFigure = (name: string, at: unknown): string => `${name} over ${isOverLoad(at) ? 'load' : 'time'}`

/** Results of one’s own: those that an article declares, and those that only a test’s settings ask for. */
export function ownOf(
  declared: readonly DeclaredOwn[],
  kept: { settings: Readonly<Record<string, unknown>>; output: Pick<MethodOutput, 'own'> } | null | undefined,
): DeclaredOwn[] {
  const asked = (kept?.settings['own'] ?? []) as Omit<DeclaredOwn, 'kind'>[]
  const further = asked.flatMap(o => {
    const kind = kept?.output.own?.[o.name]?.kind
    return declared.some(d => d.name === o.name) || !kind ? [] : [{ ...o, kind }]
  })
  return [...declared, ...further]
}

function declarationOf(o: DeclaredOwn): ResultDeclaration {
  const how = `${o.channel ?? o.expression ?? ''}: ${placeWords(o.at)}.`
  return { label: o.name, kind: o.kind, how, ...(o.limited ? { limited: o.limited } : {}) }
}

const WORDS: Record<string, string> = {
  peak: 'at the largest load',
  end: 'at the end',
  largest: 'its largest',
  smallest: 'its smallest',
  range: 'largest less smallest',
  set: 'what stays after unloading',
}

/** Where a result of one’s own is read, in words; quantities as they were entered. */
export function placeWords(at: unknown): string {
  if (typeof at === 'string') return lookUp(WORDS, at) ?? at
  const [key, said] = Object.entries((at ?? {}) as Record<string, unknown>)[0] ?? ['', null]
  switch (key) {
    case 'load':
      return `where the load first is ${written(said, 'N')}`
    case 'rung':
      return `mean at rung ${String(said)}`
    case 'step':
      return `mean of step ${String(said)}`
    case 'time':
      return `at ${written(said, 's')}`
    case 'mean':
      return `mean over ${(said as unknown[]).map(v => written(v, 's')).join(' to ')}`
    case 'slope':
      return `slope on ${String(said)}`
    case 'creep':
      return `what it goes by over step ${String(said)}`
    default:
      return ''
  }
}

function written(q: unknown, si: string): string {
  if (typeof q === 'number') return `${q} ${si}`
  const { value, unit } = q as { value: number; unit: string }
  return `${value} ${unit}`
}
