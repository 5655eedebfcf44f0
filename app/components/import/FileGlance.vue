<script setup lang="ts">
import { MOST_GLANCES } from '@hypomet/core'
import type { FilePreview } from '~/types/api'

/** What a file holds, before it belongs to any test: its columns, their units and what they look like. */
const props = defineProps<{ preview: FilePreview['preview']; isWhole: boolean }>()
const drawn = computed(() => props.preview.columns.slice(0, MOST_GLANCES))
const more = computed(() => props.preview.columns.length - drawn.value.length)
const rows = computed(() => props.preview.rowsSeen.toLocaleString('en'))
const range = (name: string) => {
  const seen = (props.preview.curves[name] ?? []).filter(v => v !== null)
  if (seen.length === 0) return ''
  const short = (v: number) => String(Number(v.toPrecision(4))).replace('-', '−')
  return `${short(Math.min(...seen))} … ${short(Math.max(...seen))}`
}
</script>

<template>
  <div class="max-h-72 overflow-y-auto">
    <table class="data" aria-label="Columns of the file">
      <thead>
        <tr>
          <th>Column</th>
          <th>Unit</th>
          <th class="text-right">Reads</th>
          <th v-if="preview.numbers?.open" class="text-open">
            “{{ preview.numbers.open.text }}” may be two numbers: asked before the import
          </th>
          <th v-else>{{ preview.rowsSeen === 0 ? '' : isWhole ? `All ${rows} rows` : `The first ${rows} rows` }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in drawn" :key="c.name">
          <td class="font-medium">{{ c.name }}</td>
          <td>
            <template v-if="c.unit">{{ c.unit }}</template><span v-else class="text-xs text-quiet">{{
              c.isNumeric ? 'asked for later' : 'words'
            }}</span>
          </td>
          <td class="text-right text-xs whitespace-nowrap text-quiet tabular-nums">
            {{ c.isStamps ? c.samples[0] : range(c.name) || c.samples.slice(0, 2).join(', ') }}
          </td>
          <td><GlanceCurve v-if="preview.curves[c.name]" :curve="preview.curves[c.name]!" :width="220" /></td>
        </tr>
      </tbody>
    </table>
    <p v-if="more > 0" class="text-xs text-quiet">and {{ more.toLocaleString('en') }} more columns</p>
  </div>
</template>
