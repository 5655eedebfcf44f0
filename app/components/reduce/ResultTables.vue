<script setup lang="ts">
import { columnFormatter, kindOfSi, wordsOf, formatNumber, type Kind, type MethodOutput } from '@hypomet/core'

/** Tables of a reduction; columns that say one thing of a channel stand side by side under its name. */
const props = defineProps<{
  tables: MethodOutput['tables']
  system: 'metric' | 'imperial'
  kindOf: (role: string) => Kind | null
  label: (role: string) => string
}>()
const units = useUnits(() => props.system)
const MOST_ROWS = 300
const SUFFIX = /^(.+?)(Mean|Sd|Creep)$/
const SHOWN = new Set(['Mean', 'Creep'])

/** A table whose rows are of different units says them row by row. */
const isByRow = (table: MethodOutput['tables'][string]) =>
  table.columns['unit']?.every(v => typeof v === 'string') ?? false
function byRow(v: number | null, unit: string): string {
  const kind = kindOfSi(unit)
  return v === null ? '–' : kind ? units.show(v, kind) : `${formatNumber(v, 4)}\u202f${unit}`
}

const shown = computed(() =>
  Object.entries(props.tables)
    .map(([name, table]) => {
      const columns = Object.keys(table.columns).filter(c => {
        const said = SUFFIX.exec(c)
        return (!said || SHOWN.has(said[2]!)) && !(c === 'unit' && isByRow(table))
      })
      const written = columns.map(c => {
        const cells = table.columns[c]!
        const said = SUFFIX.exec(c)
        const isWords = cells.some(v => typeof v === 'string')
        const kind = (said ? props.kindOf(said[1]!) : null) ?? (table.units[c] ? kindOfSi(table.units[c]) : null)
        const numbers = cells as (number | null)[]
        if (isByRow(table) && !isWords && table.units[c] === '')
          return {
            key: c,
            title: wordsOf(c),
            isNumber: true,
            cells: numbers.map((v, i) => byRow(v, String(table.columns['unit']![i]))),
          }
        if (c === 'ok')
          return { key: c, title: 'Within', isNumber: false, cells: numbers.map(v => (v === 1 ? 'yes' : 'no')) }
        const write =
          kind && kind !== 'ratio'
            ? columnFormatter(numbers, kind, { prefer: units.prefer.value })
            : plainWriter(table.units[c] ?? '', c === 'n')
        return {
          key: c,
          title: said ? `${props.label(said[1]!)}${said[2] === 'Creep' ? ', creep' : ''}` : wordsOf(c),
          isNumber: !isWords,
          cells: isWords
            ? cells.map(v =>
                c === 'channel' ? props.label(String(v)) : c === 'quantity' ? wordsOf(String(v)) : String(v ?? '–'),
              )
            : numbers.map(write),
        }
      })
      return {
        name,
        title: TITLES[name] ?? wordsOf(name),
        columns: written,
        rows: Math.min(MOST_ROWS, written[0]?.cells.length ?? 0),
        all: written[0]?.cells.length ?? 0,
      }
    })
    .filter(t => t.rows > 0),
)
const TITLES: Record<string, string> = {
  steps: 'Steps found in the record: means over each hold, and creep during it',
  gauges: 'Channels, the least straight first',
  holds: 'Holds',
  configs: 'Configurations',
  curve: 'Curves',
  southwell: 'Load that each deflection’s growth foretells',
  onsets: 'Where each deflection began to run away',
  schools: 'Both schools of design factor',
  waves: 'Waves around the ring at the peak',
  points: 'Set-points',
  projection: 'At the next set-point',
  motor: 'Constants of the motor',
  levels: 'Levels in the band',
  modes: 'Modes',
  comparison: 'Modes before and now',
  shapes: 'Mode shapes',
  mac: 'Measured shapes against the model’s',
  specimens: 'Specimens',
  worth: 'What more specimens would buy',
  failures: 'How they failed',
  explanations: 'What could explain it',
  sidelobes: 'Side lobes',
  stressStrain: 'Stress and strain by both schools',
}
/** Counts whole, other plain numbers to four digits with their unit. */
function plainWriter(unit: string, isCount: boolean): (v: number | null) => string {
  const suffix = unit === '' || unit === '1' ? '' : `\u202f${unit}`
  return v => {
    if (v === null) return '–'
    return Number.isInteger(v) && (isCount || unit === '1') ? String(v) : `${formatNumber(v, 4)}${suffix}`
  }
}
</script>

<template>
  <section v-for="t in shown" :key="t.name" class="panel overflow-x-auto" :data-table="t.name">
    <h2 class="mb-1">
      {{ t.title }}<span v-if="t.all > t.rows"> (first {{ t.rows }} of {{ t.all }})</span>
    </h2>
    <div class="max-h-80 overflow-auto" tabindex="0" role="region" :aria-label="t.title">
      <table class="data">
        <thead>
          <tr>
            <th v-for="c in t.columns" :key="c.key" :class="c.isNumber ? 'number' : ''">{{ c.title }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="i in t.rows" :key="i">
            <td v-for="c in t.columns" :key="c.key" :class="c.isNumber ? 'number' : ''">{{ c.cells[i - 1] }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
