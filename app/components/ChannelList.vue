<script setup lang="ts">
import { CircleAlert } from '@lucide/vue'
import type { RecordChannel } from '~/types/api'

/** Channels of a record, searchable, with what is wrong with them; thousands of them scroll as easily as ten. */
const props = defineProps<{ channels: RecordChannel[]; chosen: number[] }>()
const emit = defineEmits<{ toggle: [id: number]; flag: [channel: RecordChannel] }>()
const words = ref('')
const flaggedOnly = ref(false)
const found = computed(() => {
  const parts = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  return props.channels.filter(c => (!flaggedOnly.value || (c.health?.length ?? 0) > 0) && parts.every(p => `${c.name} ${c.role} ${c.unit}`.toLowerCase().includes(p)))
})
const flagged = computed(() => props.channels.filter(c => (c.health?.length ?? 0) > 0).length)
const ROW = 34
const { list, containerProps, wrapperProps } = useVirtualList(found, { itemHeight: ROW, overscan: 12 })
</script>

<template>
  <section class="panel flex min-h-0 flex-col gap-2">
    <div class="flex items-baseline justify-between"><h2>Channels</h2><span class="text-xs text-quiet">{{ channels.length.toLocaleString('en') }}</span></div>
    <input v-model="words" type="search" class="field" placeholder="Find a channel" aria-label="Find a channel">
    <label class="flex items-center gap-2 text-sm"><input v-model="flaggedOnly" type="checkbox">Only with flags <span class="text-quiet">({{ flagged }})</span></label>
    <div v-bind="containerProps" class="min-h-0 flex-1" tabindex="0" role="region" aria-label="Channel list">
      <ul v-bind="wrapperProps">
        <li v-for="{ data: c } in list" :key="c.id" :style="{ height: `${ROW}px` }" class="flex items-center gap-2 border-b border-line/60 text-sm">
          <label class="flex min-w-0 flex-1 items-center gap-2"><input type="checkbox" :checked="chosen.includes(c.id)" @change="emit('toggle', c.id)"><span class="truncate" :title="c.name">{{ c.name || c.role }}</span></label>
          <button v-if="c.health?.length" type="button" class="flex items-center gap-1 rounded px-1 text-xs text-open hover:underline" :title="c.health.map(f => f.message).join(' ')" @click="emit('flag', c)"><CircleAlert class="size-3.5" aria-hidden="true" />{{ c.health.map(f => f.code).join(', ') }}</button>
          <span v-else-if="c.used" class="text-2xs text-quiet">{{ c.role }}</span>
        </li>
      </ul>
    </div>
    <p v-if="found.length === 0" class="text-sm text-quiet">No channel by these words.</p>
  </section>
</template>
