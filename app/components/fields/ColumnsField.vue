<script setup lang="ts">
import { numberOf, styleOf, whyNoNumber } from '@hypomet/core'

/** Columns of numbers with their names on top, as copied from a sheet. */
const props = defineProps<{ modelValue: unknown; label: string; problem?: string | undefined }>()
const emit = defineEmits<{ 'update:modelValue': [value: Record<string, number[]> | null] }>()
const id = useId()
const refused = ref('')

const text = computed(() => {
  const columns = Object.entries((props.modelValue ?? {}) as Record<string, number[]>)
  const length = Math.max(0, ...columns.map(([, v]) => v.length))
  return [
    columns.map(([name]) => name).join('\t'),
    ...Array.from({ length }, (_, i) => columns.map(([, v]) => v[i] ?? '').join('\t')),
  ].join('\n')
})

function take(typed: string): void {
  refused.value = ''
  const lines = typed
    .split(/\r?\n/)
    .filter(l => l.trim() !== '')
    .map(l =>
      l
        .split(/[\t;]|,\s+|\s{2,}| /)
        .map(c => c.trim())
        .filter(Boolean),
    )
  const [names, ...rows] = lines
  if (!names) return void emit('update:modelValue', null)
  const style = styleOf(rows.flat())
  const columns: Record<string, number[]> = Object.fromEntries(names.map(n => [n, []]))
  for (const [r, row] of rows.entries())
    for (const [c, name] of names.entries()) {
      const value = numberOf(row[c] ?? '', style)
      if (!Number.isFinite(value))
        return void (refused.value = `Row ${r + 2}, column “${name}”: ${whyNoNumber(row[c] ?? '', style)}`)
      columns[name]!.push(value)
    }
  emit('update:modelValue', columns)
}
const typed = useTyped(() => text.value)
const complaint = computed(() => refused.value || props.problem || '')
</script>

<template>
  <div>
    <label :for="id" class="label">{{ label }}: paste columns with their names on top</label>
    <textarea
      :id="id"
      v-model="typed"
      class="field font-mono text-xs"
      rows="6"
      spellcheck="false"
      :aria-invalid="complaint !== ''"
      @change="take(typed)"
    />
    <p v-if="complaint" class="problem">{{ complaint }}</p>
  </div>
</template>
