<script setup lang="ts">
import { findUnit, kindOfSi, lookUp, siUnitOf } from '@hypomet/core'
import { isUnitKnown } from '~/composables/import/importMapping'
import type { FilePreview } from '~/types/api'

/** Columns that are no planned channel: kept beside them, in the units that the file says or a person knows better. */
const props = defineProps<{ columns: FilePreview['preview']['columns']; units: Record<string, string> }>()
const emit = defineEmits<{ unit: [column: string, unit: string] }>()
const SHOWN = 100
const quantity = (unit: string): string => {
  const known = unit === '' ? null : findUnit(unit, 'gravity')
  if (!known) return unit === '' ? 'plain number' : 'not known'
  // Strain is a plain ratio that is written in millionths.
  const si = siUnitOf(known.dimension)
  const kind = si === '1' && known.multiply / known.divide === 1e-6 ? 'strain' : kindOfSi(si)
  return kind
    ? kind.replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`)
    : `in ${siUnitOf(known.dimension)}`
}
const unitOf = (c: { name: string; unit: string | null }) => lookUp(props.units, c.name) ?? c.unit ?? ''
</script>

<template>
  <details class="text-sm" data-testid="further-columns">
    <summary class="cursor-pointer text-quiet">
      {{ columns.length }} further {{ columns.length === 1 ? 'column is' : 'columns are' }} kept beside them, to look at
    </summary>
    <table class="data mt-1">
      <thead>
        <tr>
          <th>Column</th>
          <th>Unit</th>
          <th>Quantity</th>
          <th>First values</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in columns.slice(0, SHOWN)" :key="c.name">
          <td>{{ c.name }}</td>
          <td>
            <input
              class="field w-20"
              :value="unitOf(c)"
              :aria-label="`Unit of ${c.name}`"
              :aria-invalid="!isUnitKnown(unitOf(c))"
              @change="emit('unit', c.name, ($event.target as HTMLInputElement).value.trim())"
            />
          </td>
          <td class="text-quiet">{{ quantity(unitOf(c)) }}</td>
          <td class="max-w-40 truncate text-xs text-quiet">{{ c.samples.join('  ') }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="columns.length > SHOWN" class="text-xs text-quiet">
      and {{ columns.length - SHOWN }} more, in the units that the file says.
    </p>
  </details>
</template>
