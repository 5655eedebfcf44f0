<script setup lang="ts">
import { columnsByPattern, isUnitKnown, type MappedColumn } from '~/composables/import/importMapping'
import type { FilePreview } from '~/types/api'

/** Which column is which channel, in what unit, and how it is calibrated. */
const props = defineProps<{ preview: FilePreview['preview']; mapping: Record<string, MappedColumn> }>()
const columns = computed(() => props.preview.columns)
const columnOf = computed(() => new Map(columns.value.map(c => [c.name, c])))
const planned = computed(() => props.preview.planned.filter(p => p.role in props.mapping))
const samples = (role: string) => columnOf.value.get(props.mapping[role]!.column)?.samples.join('  ')

/** Of many channels those that are looked for, or that have no column yet, and of those as many as can be read. */
const isLong = computed(() => planned.value.length > LONG)
const isWide = computed(() => columns.value.length > WIDE)
const [LONG, WIDE, SHOWN] = [60, 300, 60]
const find = ref('')
const onlyOpen = ref(false)
const without = computed(() => planned.value.filter(p => props.mapping[p.role]!.column === ''))
const found = computed(() => {
  if (!isLong.value) return planned.value
  const words = find.value.trim().toLowerCase()
  return (onlyOpen.value ? without.value : planned.value).filter(
    p =>
      words === '' ||
      p.label.toLowerCase().includes(words) ||
      props.mapping[p.role]!.column.toLowerCase().includes(words),
  )
})
const shown = computed(() => (isLong.value ? found.value.slice(0, SHOWN) : found.value))

const pattern = ref('')
const byPattern = computed(() =>
  columnsByPattern(
    pattern.value,
    Object.fromEntries(without.value.filter(p => p.kind !== 'text').map(p => [p.role, p.label])),
    columns.value.filter(c => c.isNumeric).map(c => c.name),
  ),
)
const patternCount = computed(() => Object.keys(byPattern.value).length)
function takePattern(): void {
  for (const [role, column] of Object.entries(byPattern.value)) {
    props.mapping[role]!.column = column
    choose(role)
  }
  pattern.value = ''
}
const curveOf = (role: string) => props.preview.curves[props.mapping[role]!.column]
const calibrated = ref<string | null>(null)
const words = ({ calibration: { table, scale, offset } }: MappedColumn) =>
  table
    ? `table, ${table.length} points`
    : [
        scale === undefined ? '' : `× ${scale}`,
        offset === undefined ? '' : `${offset < 0 ? '−' : '+'} ${Math.abs(offset)}`,
      ]
        .join(' ')
        .trim() || 'as read'
/** How sure a proposal is, and by what. */
const WHY = {
  remembered: 'as in the last import',
  stamps: 'it holds times of day',
  name: 'by its name',
  unit: 'by its unit alone',
}
/** A column's own unit comes with it. */
function choose(role: string): void {
  const unit = columnOf.value.get(props.mapping[role]!.column)?.unit
  if (unit) props.mapping[role]!.unit = unit
}
</script>

<template>
  <div v-if="isLong" class="flex flex-wrap items-end gap-3">
    <label><span class="label">Find</span><input v-model="find" class="field w-44" type="search" /></label>
    <label class="flex items-center gap-2 pb-1.5 text-sm"
      ><input v-model="onlyOpen" type="checkbox" />Only those without a column ({{
        without.length.toLocaleString('en')
      }})</label
    >
    <form v-if="without.length > 1" class="flex items-end gap-2" @submit.prevent="takePattern">
      <label
        ><span class="label">Columns by a pattern</span
        ><input v-model="pattern" class="field w-44" placeholder="CH# or Strain *" aria-describedby="pattern-note"
      /></label>
      <button class="button" :disabled="patternCount === 0">
        {{ patternCount === 0 ? 'Take' : `Take ${patternCount.toLocaleString('en')}` }}
      </button>
      <span id="pattern-note" class="pb-1.5 text-xs text-quiet"
        ># is the channel’s number, * its name{{
          pattern !== '' && patternCount === 0 ? ': no column is called so' : ''
        }}</span
      >
    </form>
  </div>
  <datalist v-if="isWide" id="file-columns">
    <option v-for="c in columns" :key="c.name" :value="c.name" />
  </datalist>
  <table class="data">
    <thead>
      <tr>
        <th>Channel</th>
        <th>Column</th>
        <th>Unit</th>
        <th>Calibration</th>
        <th>First values{{ preview.rowsSeen > 0 ? `, over ${preview.rowsSeen.toLocaleString('en')} rows` : '' }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in shown" :key="p.role">
        <td class="font-medium">{{ p.label }}</td>
        <td>
          <input
            v-if="isWide"
            v-model.trim.lazy="mapping[p.role]!.column"
            class="field min-w-36"
            list="file-columns"
            :aria-label="`Column of ${p.label}`"
            :aria-invalid="mapping[p.role]!.column !== '' && !columnOf.has(mapping[p.role]!.column)"
            :placeholder="mapping[p.role]!.open ? 'which one?' : 'not in this file'"
            @change="choose(p.role)"
          />
          <select
            v-else
            v-model="mapping[p.role]!.column"
            class="field min-w-36"
            :aria-label="`Column of ${p.label}`"
            @change="choose(p.role)"
          >
            <option value="">
              {{
                p.role !== 't'
                  ? mapping[p.role]!.open
                    ? 'which one?'
                    : 'not in this file'
                  : mapping['t']?.isOptional
                    ? 'none: rows without a clock'
                    : 'none: a fixed rate'
              }}
            </option>
            <option v-for="c in columns" :key="c.name" :value="c.name">{{ c.name }}</option>
          </select>
          <p v-if="mapping[p.role]!.open && mapping[p.role]!.column === ''" class="text-xs text-open">
            {{ mapping[p.role]!.open!.join(', ') }}: which?
            <button type="button" class="underline" @click="delete mapping[p.role]!.open">None of them</button>
          </p>
          <p
            v-else-if="preview.guess[p.role]?.column === mapping[p.role]!.column && preview.sure[p.role]"
            class="text-2xs text-quiet"
          >
            {{ WHY[preview.sure[p.role]!] }}
          </p>
        </td>
        <td>
          <span v-if="mapping[p.role]!.isText" class="text-xs text-quiet">words</span
          ><input
            v-else
            v-model.trim="mapping[p.role]!.unit"
            class="field w-20"
            :aria-label="`Unit of ${p.label}`"
            :aria-invalid="!isUnitKnown(mapping[p.role]!.unit)"
          />
        </td>
        <td>
          <button
            v-if="p.role !== 't' && !mapping[p.role]!.isText"
            type="button"
            class="button whitespace-nowrap px-1.5 text-xs"
            :disabled="mapping[p.role]!.column === ''"
            :aria-label="`Calibration of ${p.label}`"
            @click="calibrated = p.role"
          >
            {{ words(mapping[p.role]!) }}
          </button>
        </td>
        <td class="max-w-40 text-2xs text-quiet">
          <span class="block truncate">{{ samples(p.role) }}</span><GlanceCurve
            v-if="curveOf(p.role)"
            :curve="curveOf(p.role)!"
          />
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="found.length > shown.length" class="text-xs text-quiet">
    and {{ (found.length - shown.length).toLocaleString('en') }} more, found by their name
  </p>
  <CalibrationDialog
    v-if="calibrated !== null"
    :open="calibrated !== null"
    :channel="planned.find(p => p.role === calibrated)?.label ?? ''"
    :unit="mapping[calibrated]!.unit"
    :calibration="mapping[calibrated]!.calibration"
    @close="calibrated = null"
    @set="mapping[calibrated]!.calibration = $event"
  />
</template>
