<script setup lang="ts">
import { Download, Square } from '@lucide/vue'
import { formatNumber, writeCsv } from '@hypomet/core'
import type { RecordChannel, RecordPage, StepTable } from '~/types/api'

/** Means of every channel over the steps of the record, and how straight they go with a guide. */
const props = defineProps<{
  recordId: number
  channels: RecordChannel[]
  steps: RecordPage['steps']
  system: 'metric' | 'imperial'
  name: string
}>()
const records = useRecordStore()
const { busy, problem, run } = useAction()
const { doing, follow, stop } = useJob()
const { unitOf, inShown } = useChannelUnits(() => props.system)
const guide = ref<number | null>(props.channels.find(c => c.used)?.id ?? null)
const table = shallowRef<StepTable | null>(null)
const zeroed = ref(true)
const compute = () =>
  run(async () => {
    const { jobId } = await records.steps(props.recordId, { guide: guide.value, zeroed: zeroed.value })
    table.value = await follow<StepTable>(jobId)
  })
onMounted(compute)
watch([guide, zeroed], compute)
const words = ref('')
const bentOnly = ref(false)
const BENT = 0.05
const named = computed(() => new Map(props.channels.map(c => [c.id, c])))
const rows = computed(() =>
  (table.value?.rows ?? []).flatMap(r => {
    const c = named.value.get(r.id)
    return c &&
      channelName(c).toLowerCase().includes(words.value.toLowerCase().trim()) &&
      (!bentOnly.value || (r.nonlinearity ?? 0) > BENT)
      ? [{ ...r, c, written: written(c, r.means) }]
      : []
  }),
)
const bent = computed(() => (table.value?.rows ?? []).filter(r => (r.nonlinearity ?? 0) > BENT).length)
const ROW = 30
const { list, containerProps, wrapperProps } = useVirtualList(rows, { itemHeight: ROW, overscan: 10 })
const guideChannel = computed(() => (table.value?.guide == null ? null : (named.value.get(table.value.guide) ?? null)))
/** Per unit of the guide, both as shown. */
const slope = (c: RecordChannel, v: number | null) => {
  const g = guideChannel.value
  if (v === null || !g) return '–'
  const per = (x: RecordChannel) => inShown(x, 1)! - inShown(x, 0)!
  return formatNumber((v * per(c)) / per(g), 4)
}
/** As many decimals as the channel's largest step deserves: a column reads as one. */
const written = (c: RecordChannel, means: (number | null)[]): string[] => {
  const shown = means.map(v => inShown(c, v))
  const largest = Math.max(...shown.map(v => Math.abs(v ?? 0)))
  const decimals = largest === 0 ? 0 : Math.max(0, Math.min(8, 4 - Math.ceil(Math.log10(largest))))
  return shown.map(v =>
    v === null
      ? '–'
      : v
          .toFixed(decimals)
          .replace(/^-(?=0(\.0*)?$)/, '')
          .replace('-', '−'),
  )
}
const zeroWords = computed(() => {
  if (!table.value?.zero) return zeroed.value ? 'As read: no zero window is known.' : 'As read, nothing zeroed.'
  const { from, to } = table.value.zero
  const asRead = table.value.rows.some(r => r.isAsRead) ? '; temperatures, and what has no reading there, as read' : ''
  return `Less the mean over ${formatNumber(from, 4)} to ${formatNumber(to, 4)} s${asRead}.`
})
const columns = computed(
  () => `minmax(9rem, 1.6fr) 3rem 4.6rem 3.4rem repeat(${table.value?.steps.length ?? 0}, minmax(3.7rem, 1fr))`,
)
function csv(): void {
  const t = table.value!
  const head = ['channel', 'unit', ...t.steps.map((s, i) => `step ${i + 1}: ${s.from} to ${s.to} s`)]
  saveFile(
    `${props.name.replace(/\.\w+$/, '')}-steps.csv`,
    writeCsv([
      [...head, 'slope per guide (SI)', 'nonlinearity', 'zero taken off'],
      ...t.rows.map(r => {
        const { name, unit } = named.value.get(r.id)!
        const zero = t.zero && !r.isAsRead ? `mean of ${t.zero.from} to ${t.zero.to} s` : 'none'
        return [name, unit, ...r.means, r.slope, r.nonlinearity, zero]
      }),
    ]),
  )
}
</script>

<template>
  <section class="panel">
    <div class="mb-2 flex flex-wrap items-end gap-3">
      <h2 class="self-center">Steps of all channels</h2>
      <ChannelPicker v-model="guide" :channels="channels" label="Against" none="nothing" />
      <label><span class="label">Find</span><input v-model="words" type="search" class="field w-36" /></label>
      <label class="flex items-center gap-2 self-center text-sm"
        ><input v-model="bentOnly" type="checkbox" />Only more than 5 % off a straight line
        <span class="text-quiet">({{ bent }})</span></label
      >
      <label class="flex items-center gap-2 self-center text-sm"
        ><input v-model="zeroed" type="checkbox" />Zero taken off</label
      >
      <button type="button" class="button ml-auto text-xs" :disabled="table === null" @click="csv">
        <Download class="size-3.5" aria-hidden="true" />CSV in SI
      </button>
    </div>
    <p v-if="doing" class="flex items-center gap-2 text-sm text-quiet" role="status">
      <progress :value="doing.share" class="h-2 w-32" :aria-label="doing.text" />{{ doing.text
      }}<button type="button" class="button text-xs" @click="stop">
        <Square class="size-3.5" aria-hidden="true" />Stop
      </button>
    </p>
    <ProblemNote :problem="problem" />
    <div v-if="table" class="overflow-x-auto">
      <div role="table" aria-label="Step means" class="min-w-max text-sm" :aria-busy="busy">
        <div
          role="row"
          class="grid gap-x-2 border-b border-line text-2xs font-semibold text-quiet"
          :style="{ gridTemplateColumns: columns }"
        >
          <span role="columnheader" class="py-1">Channel</span><span role="columnheader" class="py-1">Unit</span>
          <span role="columnheader" class="py-1 text-right"
            >per {{ guideChannel ? unitOf(guideChannel) || 'guide' : '–' }}</span
          ><span role="columnheader" class="py-1 text-right">off line</span>
          <span
            v-for="(s, i) in table.steps"
            :key="i"
            tabindex="0"
            role="columnheader"
            class="py-1 text-right"
            :data-hint="`${s.from.toFixed(1)} to ${s.to.toFixed(1)} s`"
            >step {{ i + 1 }}</span
          >
        </div>
        <div v-bind="containerProps" role="rowgroup" class="max-h-52" tabindex="0" aria-label="Rows">
          <div v-bind="wrapperProps">
            <div
              v-for="{ data: r } in list"
              :key="r.id"
              role="row"
              class="grid items-center gap-x-2 border-b border-line/60 tabular-nums"
              :style="{ gridTemplateColumns: columns, height: `${ROW}px` }"
            >
              <span role="cell" class="truncate">{{ channelName(r.c) }}</span><span role="cell" class="text-quiet">{{
                unitOf(r.c)
              }}</span>
              <span role="cell" class="text-right">{{ slope(r.c, r.slope) }}</span><span
                role="cell"
                :class="['text-right', (r.nonlinearity ?? 0) > BENT ? 'text-open' : '']"
                >{{ r.nonlinearity === null ? '–' : `${(100 * r.nonlinearity).toFixed(1)} %` }}</span
              >
              <span v-for="(v, i) in r.written" :key="i" role="cell" class="text-right">{{ v }}</span>
            </div>
          </div>
        </div>
      </div>
      <p class="mt-1 text-xs text-quiet">
        {{ zeroWords }} The slope is that of a straight line through the steps, “off line” the farthest step from it as
        a share of the channel’s range.
      </p>
    </div>
  </section>
</template>
