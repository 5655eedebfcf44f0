<script setup lang="ts">
import { Combobox, ComboboxInput, ComboboxLabel, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import type { RecordChannel } from '~/types/api'

/** Chooses one channel of any number, by a few letters of its name. */
const props = defineProps<{ channels: RecordChannel[]; label: string; disabled?: boolean; none?: string }>()
const chosen = defineModel<number | null>({ required: true })
const words = ref('')
const SHOWN = 40
const found = computed(() => {
  const parts = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  const all: RecordChannel[] = []
  for (const c of props.channels) {
    if (parts.every(p => channelName(c).toLowerCase().includes(p))) all.push(c)
    if (all.length === SHOWN) break
  }
  return all
})
const written = (id: unknown) => {
  const c = props.channels.find(x => x.id === id)
  return c ? channelName(c) : ''
}
</script>

<template>
  <Combobox v-model="chosen" as="div" class="relative" nullable :disabled="disabled">
    <ComboboxLabel class="label">{{ label }}</ComboboxLabel>
    <ComboboxInput
      class="field"
      :display-value="written"
      :placeholder="none ?? 'a few letters'"
      autocomplete="off"
      spellcheck="false"
      @change="words = $event.target.value"
      @focus="words = ''"
    />
    <ComboboxOptions
      :class="[
        'absolute z-30 mt-1 max-h-60 w-max min-w-full max-w-96',
        'overflow-y-auto rounded-md border border-line bg-panel py-1 shadow-lg',
      ]"
    >
      <ComboboxOption v-for="c in found" :key="c.id" v-slot="{ active }" :value="c.id" as="template">
        <li :class="['truncate px-2 py-1 text-sm', active ? 'bg-accent-soft' : '']">{{ channelName(c) }}</li>
      </ComboboxOption>
      <li v-if="found.length === 0" class="px-2 py-1 text-sm text-quiet">No channel by these words.</li>
      <li v-else-if="found.length === SHOWN" class="px-2 py-1 text-xs text-quiet">and more: type further</li>
    </ComboboxOptions>
  </Combobox>
</template>
