import {
  kindOfField,
  quantityToSi,
  type Field,
  type QuantityInput,
  type Register,
  type RegisterContext,
} from '@hypomet/core'
import {
  createSortedRowModel,
  rowSortingFeature,
  sortFn_alphanumeric,
  sortFn_basic,
  tableFeatures,
  useTable,
} from '@tanstack/vue-table'
import { formFields, textsOf } from './rowText'
import type { RegisterRow } from './useRegister'

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
})

/** Rows of a register with the texts of their cells, sorted by a column and thinned by words. */
export function useSortedRows(
  register: Register,
  rows: () => RegisterRow[],
  context: () => RegisterContext,
  filter: () => string,
) {
  const data = computed(() => rows().map(row => ({ row, texts: textsOf(register, row, context()) })))
  type Item = (typeof data.value)[number]
  const columns = formFields(register).map(f => ({
    id: f.key,
    accessorFn: ({ row, texts }: Item) => numberOf(f, row, context()) ?? texts[f.key],
    sortFn: f.type === 'quantity' || f.type === 'number' ? ('basic' as const) : ('alphanumeric' as const),
  }))
  const table = useTable({
    features,
    columns,
    data,
    getRowId: (item: Item) => String(item.row.id),
  } as never) as unknown as {
    getRowModel(): { rows: { original: Item }[] }
    getColumn(
      id: string,
    ): { getIsSorted(): false | 'asc' | 'desc'; toggleSorting(): void; clearSorting(): void } | undefined
  }
  // Every word must stand somewhere in the row.
  const shown = computed(() => {
    const words = filter().toLowerCase().split(/\s+/).filter(Boolean)
    const all = table.getRowModel().rows.map(r => r.original)
    return words.length === 0
      ? all
      : all.filter(({ texts }) => {
          const text = Object.values(texts).join(' ').toLowerCase()
          return words.every(w => text.includes(w))
        })
  })
  return {
    shown,
    sortOf: (key: string) => table.getColumn(key)?.getIsSorted() ?? false,
    sortBy: (key: string) => table.getColumn(key)?.toggleSorting(),
  }
}

function numberOf(f: Field, row: RegisterRow, context: RegisterContext): number | null {
  const value = row[f.key] as QuantityInput | null | undefined
  if (value === null || value === undefined || (f.type !== 'quantity' && f.type !== 'number')) return null
  if (typeof value === 'number') return value
  const kind = f.type === 'quantity' ? kindOfField(f, row, context) : null
  return kind && kind !== 'any' ? quantityToSi(value, kind) : value.value
}
