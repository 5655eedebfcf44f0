<script setup lang="ts">
import { formatNumber, type Figure } from '@hypomet/core'
import type { Aligned, RecordChannel, RecordPage } from '~/types/api'

/** Clocks of the loggers of one test: set by typing, by an event that both saw, or by what both recorded. */
const props = defineProps<{
  records: RecordPage['records']
  channels: RecordChannel[]
  cursor: number | null
  system: 'metric' | 'imperial'
}>()
const emit = defineEmits<{ changed: [] }>()
const recordStore = useRecordStore()
const { busy, problem, run } = useAction()
const { prefer } = useUnits(() => props.system)
const others = computed(() => props.records.slice(1))
const chosen = ref(others.value[0]?.id ?? 0)
const other = computed(() => others.value.find(r => r.id === chosen.value) ?? others.value[0] ?? null)
const typed = useTyped(() => String(Number((other.value?.clockOffset ?? 0).toFixed(6))))
const offset = computed(() => typedNumber(typed.value))
const set = (value: number) =>
  run(async () => {
    await recordStore.setClock(other.value!.id, value)
    found.value = null
    event.main = event.other = ''
    emit('changed')
  })

/** The same event, as each record has it. */
const event = reactive({ main: '', other: '' })
const eventShift = computed(() => {
  const [m, o] = [event.main, event.other].map(v => (v === '' ? NaN : Number(v))) as [number, number]
  return m - o
})
/** The last place pointed at: the cursor goes away with the mouse. */
const pointed = ref<number | null>(null)
watch(
  () => props.cursor,
  t => {
    if (t !== null) pointed.value = t
  },
)

const ofMain = computed(() => props.channels.filter(c => c.datasetId === props.records[0]!.id))
const ofOther = computed(() => props.channels.filter(c => c.datasetId === other.value?.id))
const a = ref<number | null>(null)
const b = ref<number | null>(null)
watch(
  [ofMain, ofOther],
  () => {
    a.value = ofMain.value.find(c => c.used)?.id ?? ofMain.value[0]?.id ?? null
    b.value = ofOther.value.find(c => c.used)?.id ?? ofOther.value[0]?.id ?? null
  },
  { immediate: true },
)
const most = ref(60)
const found = shallowRef<Aligned | null>(null)
const align = () =>
  run(async () => {
    found.value = await recordStore.align(other.value!.id, {
      a: a.value!,
      b: b.value!,
      most: most.value,
    })
  })
const label = (id: number | null) => {
  const c = props.channels.find(x => x.id === id)
  return c ? channelName(c) : ''
}
/** Both on a scale of zero to one, for the picture only. */
const level = (min: (number | null)[], max: (number | null)[]) => {
  const mid = min.map((v, i) => (v === null || max[i] == null ? null : (v + max[i]) / 2))
  const numbers = mid.filter(v => v !== null)
  const [lo, hi] = [Math.min(...numbers), Math.max(...numbers)]
  return mid.map(v => (v === null || hi === lo ? null : (v - lo) / (hi - lo)))
}
const figure = computed<Figure | null>(
  () =>
    found.value && {
      x: { label: 'Time of the main record', kind: 'time' },
      y: { label: 'Each between its extremes', kind: 'ratio' },
      series: [
        {
          name: label(a.value),
          style: 'measured',
          x: found.value.first.t,
          y: level(found.value.first.min, found.value.first.max),
        },
        {
          name: label(b.value),
          style: 'predicted',
          x: found.value.second.t,
          y: level(found.value.second.min, found.value.second.max),
        },
      ],
      lines: [],
    },
)
</script>

<template>
  <section class="panel space-y-3">
    <div class="flex flex-wrap items-end gap-3">
      <h2 class="self-center">Clock of</h2>
      <label
        ><span class="sr-only">Record</span
        ><select v-model="chosen" class="field">
          <option v-for="r in others" :key="r.id" :value="r.id">{{ r.name }}</option>
        </select></label
      >
      <form class="flex items-end gap-2" @submit.prevent="set(offset)">
        <label
          ><span class="label">Set by, s (added to its own time)</span
          ><input v-model="typed" class="field w-32" inputmode="decimal" :aria-invalid="Number.isNaN(offset)" /><span
            v-if="Number.isNaN(offset)"
            class="problem block"
            >A number of seconds.</span
          ></label
        >
        <button class="button" :disabled="busy || Number.isNaN(offset) || offset === other?.clockOffset">Set</button>
      </form>
    </div>
    <div class="grid grid-cols-2 gap-4">
      <div>
        <h2 class="mb-1">By an event that both saw</h2>
        <p class="mb-1 text-xs text-quiet">
          Point at it in the strips, then press the button of the record whose strip it is.
          {{ pointed === null ? '' : `Last pointed at: ${formatNumber(pointed, 6)} s.` }}
        </p>
        <div class="flex items-end gap-2">
          <button
            type="button"
            class="button text-xs"
            :disabled="pointed === null"
            @click="event.main = String(pointed)"
          >
            Main record{{ event.main ? `: ${formatNumber(Number(event.main), 6)} s` : '' }}
          </button>
          <button
            type="button"
            class="button text-xs"
            :disabled="pointed === null"
            @click="event.other = String(pointed)"
          >
            {{ other?.name }}{{ event.other ? `: ${formatNumber(Number(event.other), 6)} s` : '' }}
          </button>
          <button
            type="button"
            class="button text-xs"
            :disabled="busy || Number.isNaN(eventShift)"
            @click="set((other?.clockOffset ?? 0) + eventShift)"
          >
            Move by {{ Number.isNaN(eventShift) ? '…' : formatNumber(eventShift, 4) }} s
          </button>
        </div>
      </div>
      <form @submit.prevent="align">
        <h2 class="mb-1">By what both recorded</h2>
        <div class="grid grid-cols-[1fr_1fr_6rem_auto] items-end gap-2">
          <ChannelPicker v-model="a" :channels="ofMain" label="Main record" />
          <ChannelPicker v-model="b" :channels="ofOther" :label="other?.name ?? ''" />
          <label
            ><span class="label">Within ±, s</span
            ><input v-model.number="most" type="number" min="0.001" step="any" class="field"
          /></label>
          <button class="button-main" :disabled="busy || a === null || b === null || !(most > 0)">Find</button>
        </div>
      </form>
    </div>
    <ProblemNote :problem="problem" />
    <div v-if="found && figure" class="space-y-1">
      <p class="text-sm">
        <b>{{ found.moved >= 0 ? 'Later' : 'Earlier' }} by {{ formatNumber(Math.abs(found.moved), 4) }} s</b>, to the
        nearest {{ formatNumber(found.interval, 2) }} s; correlation of what both recorded
        {{ found.correlation.toFixed(3) }}.
        <span v-if="found.isAtLimit" class="text-open"
          >This is the largest shift that was looked at: look farther.</span
        >
        <span v-else-if="Math.abs(found.correlation) < 0.7" class="text-open"
          >The two look little alike; check the picture before you take it.</span
        >
      </p>
      <FigureChart :figure="figure" :prefer="prefer" name="overlap" height="200px" />
      <div class="flex justify-end">
        <button type="button" class="button-main" :disabled="busy" @click="set(found.offset)">Set the clock so</button>
      </div>
    </div>
  </section>
</template>
