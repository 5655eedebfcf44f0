<script setup lang="ts">
import type { FilePreview } from '~/types/api'

/** What was seen of a file's form, to be corrected where the guess is wrong. */
export interface Said {
  delimiter?: FilePreview['preview']['delimiter'] | undefined
  headerRow?: number | undefined
  sheet?: string | undefined
  numbers?: 'point' | 'comma' | undefined
  dates?: 'day-first' | 'month-first' | undefined
}
const props = defineProps<{
  preview: FilePreview['preview']
  said: Said
  /** Column of the clock. */
  clock?: string | undefined
}>()
/** A date of the clock that may be two days, or may have been until somebody said. */
const openDate = computed(() => props.preview.openDates?.[props.clock ?? ''] ?? null)
const emit = defineEmits<{ said: [what: Said] }>()
const delimiters = [
  { value: '\t', label: 'tab' },
  { value: ';', label: 'semicolon' },
  { value: ',', label: 'comma' },
  { value: '|', label: 'bar' },
  { value: ' ', label: 'blanks' },
]
/** “1,234.5”, or what the number in question would be. */
const meant = (style: 'point' | 'comma') => {
  const written = style === 'point' ? '1,234.5' : '1.234,5'
  const open = props.preview.numbers?.open
  return open ? `${open[style]}, written ${written}` : `written ${written}`
}
const row = useTyped(() => String(props.preview.headerRow ?? ''))
const line = computed(() => (/^\d+$/.test(row.value.trim()) ? Number(row.value) : null))
function sayRow(): void {
  const n = line.value
  if (n !== null && n !== props.preview.headerRow)
    emit('said', { ...props.said, delimiter: props.preview.delimiter, headerRow: n })
}
</script>

<template>
  <div class="flex flex-wrap items-end gap-3">
    <template v-if="preview.delimiter !== undefined">
      <label
        ><span class="label">Delimiter</span
        ><select
          class="field"
          :value="preview.delimiter"
          @change="
            emit('said', {
              numbers: said.numbers,
              dates: said.dates,
              delimiter: ($event.target as HTMLSelectElement).value as Said['delimiter'],
            })
          "
        >
          <option v-for="d in delimiters" :key="d.value" :value="d.value">{{ d.label }}</option>
        </select></label
      >
    </template>
    <label v-if="preview.headerRow !== undefined"
      ><span class="label">Header in {{ preview.delimiter === undefined ? 'row' : 'line (0: none)' }}</span
      ><input
        v-model="row"
        class="field w-24"
        inputmode="numeric"
        :aria-invalid="line === null"
        @change="sayRow"
      /><span v-if="line === null" class="problem block">The number of a line, or 0.</span></label
    >
    <label v-if="preview.numbers"
      ><span class="label">Numbers</span
      ><select
        class="field"
        :value="preview.numbers.style ?? ''"
        :aria-invalid="preview.numbers.open ? true : undefined"
        @change="emit('said', { ...said, numbers: ($event.target as HTMLSelectElement).value as Said['numbers'] })"
      >
        <option v-if="!preview.numbers.style" value="">
          {{ preview.numbers.open ? `“${preview.numbers.open.text}” is …` : 'whole' }}
        </option>
        <option value="point">{{ meant('point') }}</option>
        <option value="comma">{{ meant('comma') }}</option>
      </select></label
    >
    <label v-if="openDate || said.dates"
      ><span class="label">Dates</span
      ><select
        class="field"
        :value="said.dates ?? ''"
        :aria-invalid="openDate ? true : undefined"
        @change="emit('said', { ...said, dates: ($event.target as HTMLSelectElement).value as Said['dates'] })"
      >
        <option v-if="!said.dates" value="">“{{ openDate }}” is …</option>
        <option value="day-first">the day first</option>
        <option value="month-first">the month first</option>
      </select></label
    >
    <label v-if="(preview.sheets?.length ?? 0) > 1"
      ><span class="label">Sheet</span
      ><select
        class="field"
        :value="preview.sheet"
        @change="emit('said', { ...said, sheet: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="s in preview.sheets" :key="s" :value="s">{{ s }}</option>
      </select></label
    >
  </div>
</template>
