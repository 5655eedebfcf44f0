<script setup lang="ts">
import { FileUp } from '@lucide/vue'
import {
  findUnit,
  isHypometError,
  sniffTable,
  wordsOf,
  type HypometError,
  type Role,
  type Sniffed,
} from '@hypomet/core'

/** A logger's file read in the browser, and which of its columns is what. */
const props = defineProps<{ roles: Record<string, Role> }>()
const emit = defineEmits<{
  picked: [record: { bytes: Uint8Array; channels: Record<string, { column: string; unit: string }> } | null]
}>()
const zone = useTemplateRef<HTMLElement>('zone')
const file = shallowRef<{ name: string; bytes: Uint8Array; sniffed: Sniffed } | null>(null)
const mapping = reactive<Record<string, { column: string; unit: string }>>({})
const problem = shallowRef<HypometError | null>(null)
const named = computed(() => Object.entries(props.roles).filter(([key]) => key !== '*'))

async function look(chosen: File | undefined): Promise<void> {
  if (!chosen) return
  problem.value = null
  try {
    const bytes = new Uint8Array(await chosen.arrayBuffer())
    const sniffed = sniffTable(bytes)
    file.value = { name: chosen.name, bytes, sniffed }
    for (const [i, [key]] of named.value.entries()) {
      const column = sniffed.columns.find(c => c.name.toLowerCase() === key.toLowerCase()) ?? sniffed.columns[i]
      mapping[key] = { column: column?.name ?? '', unit: column?.unit || (key === 't' ? 's' : '1') }
    }
  } catch (e) {
    if (!isHypometError(e)) throw e
    problem.value = e
    file.value = null
  }
}
const complete = computed(() =>
  named.value.every(([key, role]) => role.optional || (mapping[key]?.column && findUnit(mapping[key].unit, 'gravity'))),
)
watch([file, mapping], () =>
  emit(
    'picked',
    file.value && complete.value
      ? {
          bytes: file.value.bytes,
          channels: Object.fromEntries(
            Object.entries(mapping)
              .filter(([, m]) => m.column !== '')
              .map(([k, m]) => [k, { ...m }]),
          ),
        }
      : null,
  ),
)
</script>

<template>
  <section ref="zone" class="panel space-y-2">
    <h2>Record</h2>
    <FilePicker
      class="button w-full"
      label="Choose or drop a logger’s file"
      accept=".csv,.txt,.tsv,.dat"
      :zone="zone"
      @files="look($event[0])"
      ><FileUp class="size-4" aria-hidden="true" />{{ file?.name ?? 'Choose or drop a logger’s file' }}</FilePicker
    >
    <ProblemNote :problem="problem" />
    <div v-for="[key, role] in file ? named : []" :key="key" class="grid grid-cols-[1fr_5rem] gap-2">
      <label
        ><span class="label">{{ role.label || wordsOf(key) }}</span
        ><select v-model="mapping[key]!.column" class="field">
          <option value="">–</option>
          <option v-for="c in file!.sniffed.columns" :key="c.name" :value="c.name">{{ c.name }}</option>
        </select></label
      >
      <label
        ><span class="label">Unit</span
        ><input
          v-model.lazy.trim="mapping[key]!.unit"
          class="field"
          :aria-invalid="!findUnit(mapping[key]!.unit, 'gravity')"
      /></label>
    </div>
  </section>
</template>
