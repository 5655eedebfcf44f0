<script setup lang="ts">
import { isUnitKnown, type MappedColumn } from '~/composables/import/importMapping'
import type { FilePreview } from '~/types/api'

/** Which column is which channel, in what unit, and how it is calibrated. */
const props = defineProps<{ preview: FilePreview['preview']; mapping: Record<string, MappedColumn> }>()
const columns = computed(() => props.preview.columns)
const planned = computed(() => props.preview.planned.filter(p => p.role in props.mapping))
const samples = (role: string) => columns.value.find(c => c.name === props.mapping[role]!.column)?.samples.join('  ')
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
  const unit = columns.value.find(c => c.name === props.mapping[role]!.column)?.unit
  if (unit) props.mapping[role]!.unit = unit
}
</script>

<template>
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
      <tr v-for="p in planned" :key="p.role">
        <td class="font-medium">{{ p.label }}</td>
        <td>
          <select
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
