<script setup lang="ts">
import { isUnitKnown, type MappedColumn } from '~/composables/import/importMapping'
import type { FilePreview } from '~/types/api'

/** Which column is which channel, in what unit, and how it is calibrated. */
const props = defineProps<{ preview: FilePreview['preview']; mapping: Record<string, MappedColumn> }>()
const columns = computed(() => props.preview.columns)
const planned = computed(() => props.preview.planned.filter(p => p.role in props.mapping))
const samples = (role: string) => columns.value.find(c => c.name === props.mapping[role]!.column)?.samples.join('  ')
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
        <th>First values</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in planned" :key="p.role">
        <td class="font-medium">{{ p.label }}</td>
        <td>
          <select
            v-model="mapping[p.role]!.column"
            class="field"
            :aria-label="`Column of ${p.label}`"
            @change="choose(p.role)"
          >
            <option value="">
              {{
                p.role !== 't'
                  ? 'not in this file'
                  : mapping['t']?.isOptional
                    ? 'none: rows without a clock'
                    : 'none: a fixed rate'
              }}
            </option>
            <option v-for="c in columns" :key="c.name" :value="c.name">{{ c.name }}</option>
          </select>
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
        <td class="max-w-40 truncate text-xs text-quiet">{{ samples(p.role) }}</td>
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
