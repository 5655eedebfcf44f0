<script setup lang="ts">
import { readChannelList, type ChannelList } from '@hypomet/core'
import type { ChannelDraft } from '~/composables/plan/usePlanDraft'
import type { SensorRow } from '~/types/api'

/** Channels pasted from a sheet, thousands at once: what is understood is shown before anything is taken. */
const props = defineProps<{ open: boolean; taken: readonly string[]; sensors: readonly SensorRow[] }>()
const emit = defineEmits<{ close: []; take: [channels: ChannelDraft[]] }>()
const numbers = useNumberStyle()
const text = ref('')
/** Thousands of rows are kept beside the field, which shows the first of them: no browser edits so many at ease. */
const pasted = ref('')
const SHOWN_ROWS = 60
const all = computed(() => pasted.value || text.value)
const shown = computed(() => {
  const rows = pasted.value.split('\n')
  return [...rows.slice(0, SHOWN_ROWS), `… and ${(rows.length - SHOWN_ROWS).toLocaleString('en')} more rows`].join('\n')
})
function onPaste(e: ClipboardEvent): void {
  const came = e.clipboardData?.getData('text/plain') ?? ''
  if (came.split('\n', SHOWN_ROWS + 2).length <= SHOWN_ROWS) return
  e.preventDefault()
  pasted.value = came
}
const list = shallowRef<ChannelList | null>(null)
watchDebounced(
  [all, () => props.open],
  () => {
    const { taken, sensors } = props
    list.value =
      all.value.trim() === '' ? null : readChannelList(all.value, { taken, sensors, numbers: numbers.style.value })
  },
  { debounce: 200 },
)
const NAMES: Record<string, string> = {
  label: 'name',
  role: 'short name',
  kind: 'kind',
  unit: 'unit',
  place: 'place',
  x: 'place along the span',
  sensor: 'sensor',
  rate: 'rate',
  expected: 'expected',
  twin: 'redundant to',
  expression: 'derived from',
}
const EXAMPLE = 'Name\tPlace\tSensor\tRate\tUnit\nSG 1\tRib 1\tBridge 12\t20\tµε'
const MOST_SHOWN = 8
const count = (n: number, what: string) => `${n.toLocaleString('en')} ${what}${n === 1 ? '' : 's'}`
const readAs = computed(() =>
  Object.entries(list.value?.columns ?? {})
    .map(([key, name]) => (name === key ? NAMES[key] : `“${name}” as ${NAMES[key]}`))
    .join(', '),
)
function take(): void {
  if (!list.value || list.value.channels.length === 0) return
  emit('take', list.value.channels)
  text.value = ''
  pasted.value = ''
  list.value = null
}
</script>

<template>
  <BaseDialog
    :open="open"
    wide
    title="Channels from a list"
    description="Paste rows from a sheet: name, place, sensor, rate, unit; or any columns under a heading that names
      them. What a channel measures follows from its unit."
    @close="emit('close')"
  >
    <form class="space-y-2" @submit.prevent="take">
      <label class="block"
        ><span class="label">Rows</span
        ><textarea v-if="pasted" :value="shown" class="field h-40 font-mono text-xs" readonly></textarea
        ><textarea
          v-else
          v-model="text"
          class="field h-40 font-mono text-xs"
          spellcheck="false"
          :placeholder="EXAMPLE"
          @paste="onPaste"
        ></textarea>
      </label>
      <div v-if="list" role="status" data-list>
        <p class="font-medium">{{ count(list.channels.length, 'channel') }}</p>
        <p class="text-xs text-quiet">Read: {{ readAs }}.</p>
        <p class="text-xs text-quiet">
          First: {{ list.channels[0]?.label }} ({{ list.channels[0]?.role }}), {{ list.channels[0]?.kind
          }}{{ list.channels[0]?.place ? `, ${list.channels[0].place}` : ''
          }}{{ list.channels[0]?.rate ? `, ${list.channels[0].rate} Hz` : '' }}.
        </p>
        <p v-if="list.plain > 0" class="text-sm text-open">
          {{ count(list.plain, 'channel') }} without a unit: taken as plain numbers.
        </p>
        <template v-if="list.problems.length > 0">
          <p class="mt-1 text-sm text-open">
            {{ count(list.problems.length, 'cell') }} not understood, left out of what is taken:
          </p>
          <ul class="text-xs text-open">
            <li v-for="p in list.problems.slice(0, MOST_SHOWN)" :key="`${p.row} ${p.column}`">
              Row {{ p.row }}, {{ p.column }}: {{ p.message }}
            </li>
            <li v-if="list.problems.length > MOST_SHOWN">and {{ list.problems.length - MOST_SHOWN }} more</li>
          </ul>
        </template>
      </div>
      <div class="flex justify-end gap-2">
        <button v-if="pasted" type="button" class="button mr-auto" @click="pasted = ''">Another list</button>
        <button type="button" class="button" @click="emit('close')">Cancel</button
        ><button class="button-main" :disabled="!list || list.channels.length === 0">
          {{ list ? `Add ${count(list.channels.length, 'channel')}` : 'Add' }}
        </button>
      </div>
    </form>
  </BaseDialog>
</template>
