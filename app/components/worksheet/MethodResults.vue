<script setup lang="ts">
import {
  calcs,
  columnFormatter,
  formatNumber,
  kindOfSi,
  wordsOf,
  type Figure,
  type Kind,
  type MethodOutput,
  type ResultTable,
  type UnitPreference,
} from '@hypomet/core'

/** What a method gave: results, warnings, tables, and long tables as curves too. */
const props = defineProps<{ output: MethodOutput; prefer: UnitPreference; name: string }>()
const units = useUnits(() => 'metric')

const label = (key: string) => calcs[props.output.method]?.labels?.[key] ?? wordsOf(key)
const results = computed(() =>
  Object.entries(props.output.results).map(([key, r]) => {
    const kind = kindOfSi(r.unit)
    return {
      key,
      label: label(key),
      text:
        r.value === null
          ? 'not available'
          : r.unit === '1' && r.u === undefined && Number.isInteger(r.value)
            ? String(r.value)
            : kind
              ? units.result(r, kind)
              : `${formatNumber(r.value)}\u202f${r.unit}`,
    }
  }),
)

const LONG = 12
const tables = computed(() =>
  Object.entries(props.output.tables)
    .filter(([, t]) => Object.keys(t.columns).length > 0)
    .map(([name, table]) => ({
      name,
      title: wordsOf(name),
      rows: rowsOf(table),
      heads: headsOf(table),
      figures: figuresOf(table),
    })),
)

const kindIn = (table: ResultTable, column: string): Kind | null =>
  table.units[column] ? kindOfSi(table.units[column]) : null
const headsOf = (table: ResultTable) =>
  Object.keys(table.columns).map(c => ({
    column: c,
    title: label(c),
    isNumber: table.columns[c]!.every(v => typeof v !== 'string'),
  }))
function rowsOf(table: ResultTable): string[][] {
  const columns = Object.entries(table.columns).map(([c, cells]) => {
    const kind = kindIn(table, c)
    if (cells.some(v => typeof v === 'string')) return cells.map(v => String(v ?? '–'))
    const write =
      kind && kind !== 'ratio'
        ? columnFormatter(cells as (number | null)[], kind, { prefer: props.prefer })
        : plainly(cells as (number | null)[], table.units[c])
    return (cells as (number | null)[]).map(write)
  })
  return Array.from({ length: columns[0]?.length ?? 0 }, (_, i) => columns.map(c => c[i]!))
}
/** Whole numbers are counts; a unit without a kind of its own is written beside. */
function plainly(cells: (number | null)[], unit: string | undefined): (v: number | null) => string {
  const isCount = cells.every(v => v === null || Number.isInteger(v))
  const label = unit && unit !== '1' ? `\u202f${unit}` : ''
  return v => (v === null ? '–' : (isCount ? String(v) : formatNumber(v, 4)) + label)
}
/** Every further column over the first, where the table is long enough to be a curve. */
function figuresOf(table: ResultTable): { column: string; figure: Figure }[] {
  const [x, ...ys] = Object.keys(table.columns)
  if (!x || table.columns[x]!.length < LONG || typeof table.columns[x]![0] !== 'number') return []
  return ys.map(y => ({
    column: y,
    figure: {
      x: { label: label(x), kind: kindIn(table, x) ?? 'ratio' },
      y: { label: label(y), kind: kindIn(table, y) ?? 'ratio' },
      series: [
        {
          name: label(y),
          style: 'measured' as const,
          x: table.columns[x] as number[],
          y: table.columns[y] as number[],
        },
      ],
      lines: [],
    },
  }))
}
const chosen = reactive<Record<string, string>>({})
const figureOf = (t: (typeof tables.value)[number]) => t.figures.find(f => f.column === chosen[t.name]) ?? t.figures[0]
</script>

<template>
  <div class="space-y-3">
    <section v-if="results.length > 0" class="panel">
      <h2 class="mb-2">Results</h2>
      <dl class="grid grid-cols-2 gap-x-6 gap-y-2 sm:grid-cols-3 xl:grid-cols-4">
        <div v-for="r in results" :key="r.key">
          <dt class="text-xs text-quiet">{{ r.label }}</dt>
          <dd class="text-base font-semibold tabular-nums">{{ r.text }}</dd>
        </div>
      </dl>
      <p v-for="w in output.warnings" :key="w.code + w.message" class="mt-2 text-sm text-open">{{ w.message }}</p>
    </section>
    <section v-for="t in tables" :key="t.name" class="panel">
      <div class="mb-1 flex items-center justify-between gap-2">
        <h2>{{ t.title }}</h2>
        <label v-if="t.figures.length > 1" class="flex items-center gap-1 text-xs text-quiet"
          >Curve of<select
            :value="figureOf(t)!.column"
            class="field w-auto py-0.5"
            @change="chosen[t.name] = ($event.target as HTMLSelectElement).value"
          >
            <option v-for="f in t.figures" :key="f.column" :value="f.column">{{ label(f.column) }}</option>
          </select></label
        >
      </div>
      <FigureChart
        v-if="figureOf(t)"
        :figure="figureOf(t)!.figure"
        :prefer="prefer"
        :name="`${name}-${t.name}`"
        height="240px"
      />
      <div class="max-h-64 overflow-auto" tabindex="0" role="region" :aria-label="`${t.title}, table`">
        <table class="data">
          <thead>
            <tr>
              <th v-for="h in t.heads" :key="h.column" :class="h.isNumber ? 'number' : ''">{{ h.title }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, i) in t.rows.slice(0, 400)" :key="i">
              <td v-for="(cell, j) in row" :key="j" :class="t.heads[j]!.isNumber ? 'number' : ''">{{ cell }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
</template>
