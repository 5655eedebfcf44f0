import {
  families,
  formOf,
  isHypometError,
  kindOf,
  findUnit,
  quantityToSi,
  writeFact,
  type Fact,
  type FormField,
  type HistoryRevision,
  type Kind,
  type QuantityInput,
} from '@hypomet/core'
import type { ArticleView } from '~/types/api'

/** One property across all revisions of an article. */
export interface PropertyRow {
  key: string
  group: string
  title: string
  cells: PropertyCell[]
}

export interface PropertyCell {
  text: string
  /** SI number or word, for comparing; null where the revision does not say. */
  value: number | string | null
  kind: Kind | null
  /** Differs from the revision that this one follows. */
  changed: boolean
}

/** Properties of an article's revisions – its family's, further ones, mass – and its history of factors. */
export function useFactors(article: () => ArticleView, units: ReturnType<typeof useUnits>) {
  const properties = computed<PropertyRow[]>(() => {
    const { revisions } = article()
    const parentIndex = revisions.map(r => revisions.findIndex(x => x.id === r.parentId))
    const rows: { key: string; group: string; title: string; read: (i: number) => Omit<PropertyCell, 'changed'> }[] = [
      ...familyFields(article()).map(f => ({
        key: f.key,
        group: 'Calculation',
        title: f.title,
        read: (i: number) =>
          cellOf(revisions[i]!.properties[f.key], f.type === 'quantity' && f.kind !== 'any' ? f.kind : null, units),
      })),
      { key: 'mass', group: 'Mass', title: 'Mass', read: i => cellOf(revisions[i]!.mass, 'mass', units) },
      ...factNames(revisions).map(([name, group]) => ({
        key: `fact:${name}`,
        group,
        title: name,
        read: (i: number) =>
          factCell(
            revisions[i]!.facts.find(f => f.name.toLowerCase() === name.toLowerCase()),
            units,
          ),
      })),
    ]
    return rows
      .map(({ read, ...row }) => {
        const cells = revisions.map((_, i) => read(i))
        return {
          ...row,
          cells: cells.map((c, i) => ({
            ...c,
            changed: parentIndex[i]! >= 0 && c.value !== cells[parentIndex[i]!]!.value,
          })),
        }
      })
      .filter(r => r.cells.some(c => c.value !== null))
  })

  /** For the question which factor moved a result. Mass follows from the others and is none. */
  const history = (quantity: string): HistoryRevision[] =>
    article().revisions.map((r, i) => ({
      id: r.id,
      label: r.label,
      parentId: r.parentId,
      factors: Object.fromEntries(
        properties.value
          .filter(p => p.key !== 'mass' && p.cells[i]!.value !== null)
          .map(p => [p.title, p.cells[i]!.value!]),
      ),
      result: r.tests.findLast(t => t.results?.[quantity])?.results?.[quantity] ?? null,
    }))
  return { properties, history }
}

function familyFields(a: ArticleView): FormField[] {
  const schema = families[a.family]?.stages.article
  if (!schema) return []
  const form = formOf(schema)
  if (form.type === 'group') return form.fields
  if (form.type !== 'variant') return []
  const used = form.options.filter(o => a.revisions.some(r => r.properties[form.by] === o.name))
  const all = used.flatMap(o => o.fields)
  return [
    { key: form.by, title: form.by[0]!.toUpperCase() + form.by.slice(1), required: true, type: 'text' },
    ...all.filter((f, i) => all.findIndex(x => x.key === f.key) === i),
  ]
}

function factNames(revisions: ArticleView['revisions']): [name: string, group: string][] {
  const names = new Map<string, [string, string]>()
  for (const r of revisions)
    for (const f of r.facts) if (!names.has(f.name.toLowerCase())) names.set(f.name.toLowerCase(), [f.name, f.group])
  return [...names.values()]
}

const EMPTY = { text: '–', value: null, kind: null }

function cellOf(
  entered: unknown,
  kind: Kind | null,
  units: ReturnType<typeof useUnits>,
): Omit<PropertyCell, 'changed'> {
  if (entered === null || entered === undefined) return EMPTY
  if (kind === null || typeof entered === 'string') return { text: String(entered), value: String(entered), kind: null }
  const q = entered as QuantityInput
  return {
    text: typeof q === 'number' ? units.show(q, kind, { digits: 4 }) : units.entered(q, kind),
    value: typeof q === 'number' ? q : quantityToSi(q, kind),
    kind,
  }
}

function factCell(fact: Fact | undefined, units: ReturnType<typeof useUnits>): Omit<PropertyCell, 'changed'> {
  if (!fact) return EMPTY
  const { value } = fact
  if (typeof value === 'string') return { text: value, value, kind: null }
  if (typeof value === 'number') return { text: String(value), value, kind: 'ratio' }
  const kind = kindOf(findUnit(value.unit)?.dimension ?? [])
  try {
    return kind ? cellOf(value, kind, units) : { text: writeFact(value), value: value.value, kind: null }
  } catch (e) {
    if (!isHypometError(e)) throw e
    return { text: writeFact(value), value: writeFact(value), kind: null }
  }
}
