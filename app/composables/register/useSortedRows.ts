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
  type ColumnDef,
} from '@tanstack/vue-table'
import { formFields, textsOf, type Texts } from './rowText'
import type { RegisterRow } from './useRegister'

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
})

interface Item {
  row: RegisterRow
  texts: Texts
}
/** A column sorts by its numbers where it has any, by its text otherwise. */
function columnOf(f: Field, context: () => RegisterContext): ColumnDef<typeof features, Item> {
  const isNumber = f.type === 'quantity' || f.type === 'number'
  return {
    id: f.key,
    accessorFn: ({ row, texts }) => numberOf(f, row, context()) ?? texts[f.key],
    sortFn: isNumber ? 'basic' : 'alphanumeric',
  }
}
/** Every word must stand somewhere in the row. */
function holdsAll({ texts }: Item, words: string[]): boolean {
  const text = Object.values(texts).join(' ').toLowerCase()
  return words.every(w => text.includes(w))
}

/** Rows of a register with the texts of their cells, sorted by a column and thinned by words. */
export function useSortedRows(
  register: Register,
  rows: () => RegisterRow[],
  context: () => RegisterContext,
  filter: () => string,
) {
  const data = computed((): Item[] => rows().map(row => ({ row, texts: textsOf(register, row, context()) })))
  const table = useTable<typeof features, Item>({
    features,
    columns: formFields(register).map(f => columnOf(f, context)),
    data,
    getRowId: item => String(item.row.id),
  })
  const shown = computed(() => {
    const words = filter().toLowerCase().split(/\s+/).filter(Boolean)
    const all = table.getRowModel().rows.map(r => r.original)
    return words.length === 0 ? all : all.filter(item => holdsAll(item, words))
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
