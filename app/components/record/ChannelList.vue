<script setup lang="ts">
import type { HealthCode } from '@hypomet/core'
import { ChevronDown, ChevronRight, CircleAlert, Trash2, Wrench } from '@lucide/vue'
import { grouped, type Grouping } from '~/composables/record/channelGroups'
import type { RecordChannel, RecordPage } from '~/types/api'

/**
 * Channels of a record, searchable, grouped, with what is wrong with them; thousands of them scroll as easily as ten.
 */
const props = defineProps<{
  channels: RecordChannel[]
  chosen: number[]
  records: RecordPage['records']
  system: 'metric' | 'imperial'
}>()
const emit = defineEmits<{
  toggle: [id: number]
  flag: [channel: RecordChannel]
  remove: [channel: RecordChannel]
  mend: [channel: RecordChannel]
}>()
const { kindOf } = useChannelUnits(() => props.system)
const FLAG_WORDS: Record<HealthCode, string> = {
  clipped: 'clipped',
  flat: 'flat',
  dead: 'dead',
  gap: 'gap',
  spike: 'outlier',
  noisy: 'noisy',
  drift: 'drift',
  'swapped-sign': 'wrong sign',
  'rate-error': 'wrong rate',
  parted: 'disagrees',
}
const words = ref('')
const flaggedOnly = ref(false)
const by = ref<Grouping>('none')
const closed = ref(new Set<string>())
const found = computed(() => {
  const parts = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  return props.channels.filter(
    c =>
      (!flaggedOnly.value || (c.health?.length ?? 0) > 0) &&
      parts.every(p => `${c.name} ${c.role} ${c.unit}`.toLowerCase().includes(p)),
  )
})
const flagged = computed(() => props.channels.filter(c => (c.health?.length ?? 0) > 0).length)
const kindName = (c: RecordChannel) => {
  const kind = kindOf(c)
  return kind
    ? kind
        .replace(/^./, f => f.toUpperCase())
        .replace(/([a-z])([A-Z])/g, (_, p: string, q: string) => `${p} ${q.toLowerCase()}`)
    : c.unit
      ? `In ${c.unit}`
      : 'No unit given'
}
/** Of those with flags the worst is looked at first. */
const order = computed(() => (flaggedOnly.value && by.value === 'none' ? 'worst' : by.value))
const rows = computed(() => grouped(found.value, order.value, kindName, props.records, closed.value))
const groupings = computed<{ value: Grouping; label: string }[]>(() => [
  { value: 'none', label: 'as in the file' },
  { value: 'worst', label: 'worst first' },
  { value: 'kind', label: 'by kind' },
  { value: 'place', label: 'by place' },
  ...(props.records.length > 1 ? [{ value: 'logger' as const, label: 'by logger' }] : []),
])
function fold(group: string): void {
  const next = new Set(closed.value)
  if (!next.delete(group)) next.add(group)
  closed.value = next
}
const ROW = 34
const { list, containerProps, wrapperProps } = useVirtualList(rows, { itemHeight: ROW, overscan: 12 })
</script>

<template>
  <section class="panel flex min-h-0 flex-col gap-2">
    <div class="flex items-center justify-between gap-2">
      <h2>
        Channels <span class="font-normal normal-case tracking-normal">{{ channels.length.toLocaleString('en') }}</span>
      </h2>
      <select v-model="by" class="field w-auto py-0 text-xs" aria-label="Group channels">
        <option v-for="g in groupings" :key="g.value" :value="g.value">{{ g.label }}</option>
      </select>
    </div>
    <input v-model="words" type="search" class="field" placeholder="Find a channel" aria-label="Find a channel" />
    <label class="flex items-center gap-2 text-sm"
      ><input v-model="flaggedOnly" type="checkbox" />Only with flags
      <span class="text-quiet">({{ flagged }})</span></label
    >
    <div v-bind="containerProps" class="min-h-0 flex-1" tabindex="0" role="region" aria-label="Channel list">
      <ul v-bind="wrapperProps">
        <li
          v-for="{ data: row } in list"
          :key="'group' in row ? row.group : row.channel.id"
          :style="{ height: `${ROW}px` }"
          class="flex items-center gap-2 border-b border-line/60 text-sm"
        >
          <button
            v-if="'group' in row"
            type="button"
            class="flex min-w-0 flex-1 items-center gap-1 text-left font-semibold"
            :aria-expanded="!closed.has(row.group)"
            @click="fold(row.group)"
          >
            <component
              :is="closed.has(row.group) ? ChevronRight : ChevronDown"
              class="size-4 shrink-0"
              aria-hidden="true"
            /><span class="truncate">{{ row.group }}</span
            ><span class="ml-auto text-xs font-normal text-quiet"
              >{{ row.size }}{{ row.flagged > 0 ? `, ${row.flagged} flagged` : '' }}</span
            >
          </button>
          <template v-else>
            <label
              :class="['flex min-w-0 flex-1 items-center gap-2', by === 'none' || by === 'worst' ? '' : 'pl-4']"
              :data-hint="
                row.channel.expression === null ? row.channel.name : `${row.channel.name} = ${row.channel.expression}`
              "
              ><input
                type="checkbox"
                :checked="chosen.includes(row.channel.id)"
                @change="emit('toggle', row.channel.id)"
              /><span class="truncate">{{ channelName(row.channel) }}</span
              ><code v-if="row.channel.symbol !== channelName(row.channel)" class="truncate text-2xs text-quiet">{{
                row.channel.symbol
              }}</code></label
            >
            <button
              v-if="row.channel.health?.length"
              type="button"
              class="flex items-center gap-1 rounded px-1 text-xs text-open hover:underline"
              :data-hint="row.channel.health.map(f => f.message).join(' ')"
              @click="emit('flag', row.channel)"
            >
              <CircleAlert class="size-3.5" aria-hidden="true" />{{
                row.channel.health.map(f => FLAG_WORDS[f.code]).join(', ')
              }}
            </button>
            <span v-else-if="row.channel.used" class="text-2xs text-quiet">{{ row.channel.role }}</span>
            <button
              type="button"
              class="rounded p-1 text-quiet hover:text-ink"
              :aria-label="`Mend ${row.channel.name || row.channel.role}`"
              data-hint="What it is read as, its unit and sign"
              @click="emit('mend', row.channel)"
            >
              <Wrench class="size-3.5" aria-hidden="true" />
            </button>
            <button
              v-if="row.channel.expression !== null"
              type="button"
              class="rounded p-1 text-quiet hover:text-ink"
              :aria-label="`Take out ${row.channel.name}`"
              @click="emit('remove', row.channel)"
            >
              <Trash2 class="size-3.5" aria-hidden="true" />
            </button>
          </template>
        </li>
      </ul>
    </div>
    <p v-if="found.length === 0" class="text-sm text-quiet">No channel by these words.</p>
  </section>
</template>
