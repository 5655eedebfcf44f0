<script setup lang="ts">
import {
  ChevronRight,
  Clock,
  Download,
  Equal,
  FileClock,
  Grid3x3,
  HeartPulse,
  ListOrdered,
  Maximize2,
  Sigma,
} from '@lucide/vue'
import { formatNumber } from '@hypomet/core'
import { niceTicks } from '~/composables/charts/niceTicks'
import type { RecordTool } from '~/composables/record/recordTools'
import type { DerivedStrip, RecordChannel, RecordPage, TakenAnew } from '~/types/api'

const id = Number(useRoute().params['id'])
const api = useApi()
const recordStore = useRecordStore()
const { data: page, refresh } = await useAsyncData(`record-${id}`, () => api.get(`/api/datasets/${id}`))
if (!page.value) throw createError({ statusCode: 404, statusMessage: 'There is no such record.', fatal: true })
useNumbersOf(() => page.value && { id: page.value.campaignId, numbers: page.value.numbers, units: page.value.units })
const main = computed(() => page.value!.records[0]!)
useTrail().value = [
  { name: page.value.campaign, to: `/campaigns/${page.value.slug}` },
  { name: `${page.value.articleName} ${page.value.revision}`, to: `/tests/${page.value.testId}/reduce` },
  { name: main.value.name },
]
useHead({ title: `${main.value.name} · Hypomet` })
const { problem, run } = useAction()

const channels = computed(() => page.value!.channels)
const chosen = ref(
  channels.value
    .filter(c => c.used)
    .slice(0, 4)
    .map(c => c.id),
)
if (chosen.value.length === 0) chosen.value = channels.value.slice(0, 3).map(c => c.id)
const MOST_STRIPS = 16
function toggle(channel: number): void {
  chosen.value = chosen.value.includes(channel)
    ? chosen.value.filter(c => c !== channel)
    : [...chosen.value, channel].slice(-MOST_STRIPS)
}
const overlaid = ref(false)
const { view, show, zoom, pan, all } = useTimeView(() => page.value!)

const width = ref(0)
const { strip, renew } = useStrips(id, chosen, view, width, run)

/** Something of the record has changed: what is shown follows. */
async function changed(): Promise<void> {
  await refresh()
  chosen.value = chosen.value.filter(c => channels.value.some(x => x.id === c))
  show(view.value.from, view.value.to)
  await renew()
}
const tool = ref<RecordTool | null>(null)
const tools = computed(() => [
  { id: 'derive' as const, label: 'Derive', icon: Sigma },
  { id: 'pairs' as const, label: 'Redundant channels', icon: Equal },
  ...(page.value!.records.length > 1 ? [{ id: 'clocks' as const, label: 'Clocks', icon: Clock }] : []),
  { id: 'steps' as const, label: 'Steps', icon: ListOrdered },
  ...(main.value.source === 'file' ? [{ id: 'file' as const, label: 'Read again', icon: FileClock }] : []),
  { id: 'health' as const, label: 'Check data quality', icon: HeartPulse },
])
const derived = shallowRef<DerivedStrip | null>(null)
async function kept(channel: number): Promise<void> {
  await refresh()
  toggle(channel)
}
const takeOut = (c: RecordChannel) =>
  run(async () => {
    await recordStore.removeChannel(c.id)
    await changed()
  })

const mended = shallowRef<RecordChannel | null>(null)
/** Something was said anew: what rests on it has been worked out, and what came of it is said. */
async function anew(what: TakenAnew): Promise<void> {
  await changed()
  said.value = anewWords(what)
}
const cursor = ref<number | null>(null)
const selection = ref<[number, number] | null>(null)
/** Told apart from one that is still being drawn: its numbers are looked up once. */
const settled = ref<[number, number] | null>(null)
function select(range: [number, number] | null, done: boolean): void {
  selection.value = range
  if (done || range === null) settled.value = range
}
const step = computed(() => niceTicks(view.value.from, view.value.to, Math.max(3, width.value / 120)).step)

/** Flags with a place, in order; `n` goes from one to the next. */
const flags = computed(() =>
  channels.value
    .flatMap(c => (c.health ?? []).flatMap(f => (f.at == null ? [] : [{ c, at: f.at, message: f.message }])))
    .toSorted((a, b) => a.at - b.at),
)
const flagAt = ref(-1)
const said = ref('')
function go(to: { c: RecordChannel; at: number; message: string }): void {
  if (!chosen.value.includes(to.c.id)) toggle(to.c.id)
  const span = Math.min(view.value.to - view.value.from, (page.value!.to - page.value!.from) / 20)
  show(to.at - span / 2, to.at + span / 2)
  cursor.value = to.at
  said.value = `${channelName(to.c)}: ${to.message}`
}
function nextFlag(): void {
  if (flags.value.length === 0) return
  flagAt.value = (flagAt.value + 1) % flags.value.length
  go(flags.value[flagAt.value]!)
}
function showFlag(c: RecordChannel): void {
  const first = flags.value.find(f => f.c.id === c.id)
  if (first) return go(first)
  said.value = `${channelName(c)}: ${c.health!.map(f => f.message).join(' ')}`
  if (!chosen.value.includes(c.id)) toggle(c.id)
}
const marks = computed(() => flags.value.filter(f => chosen.value.includes(f.c.id)).map(f => f.at))
onKeyStroke(['ArrowLeft', 'ArrowRight', '+', '-', 'Home', 'n'], e => {
  if (isTyping(e)) return
  e.preventDefault()
  const acts: Record<string, () => void> = {
    ArrowLeft: () => pan(-0.2),
    ArrowRight: () => pan(0.2),
    '+': () => zoom(0.6),
    '-': () => zoom(1.6),
    Home: all,
    n: nextFlag,
  }
  acts[e.key]!()
})
const exportHref = computed(() => {
  const [from, to] = selection.value ?? [view.value.from, view.value.to]
  return `/api/datasets/${id}/export?channels=${chosen.value.join(',')}&from=${from}&to=${to}`
})
const gone = (wasMain: boolean) => (wasMain ? navigateTo(`/tests/${page.value!.testId}/run`) : changed())
const rowsOf = (r: RecordPage['records'][number]) =>
  `${r.rows.toLocaleString('en')} rows, ${formatNumber(r.to - r.from, 4)} ` +
  `s${r.clockOffset === 0 ? '' : `, clock set by ${formatNumber(r.clockOffset, 4)} s`}`
</script>

<template>
  <main class="grid h-[calc(100vh-2.75rem)] grid-cols-[18rem_1fr] gap-3 p-3">
    <ChannelList
      :channels="channels"
      :chosen="chosen"
      :records="page!.records"
      :system="page!.system"
      @toggle="toggle"
      @flag="showFlag"
      @remove="takeOut"
      @mend="mended = $event"
    />
    <MendChannel :channel="mended" :roles="page!.roles" @close="mended = null" @mended="anew" />
    <div class="min-w-0 space-y-3 overflow-y-auto">
      <DerivedPanel
        v-if="tool === 'derive'"
        :dataset-id="id"
        :channels="channels"
        :view="view"
        :width="width"
        :roles="page!.roles"
        @drawn="derived = $event"
        @kept="kept"
      />
      <PairsPanel
        v-else-if="tool === 'pairs'"
        :record-id="id"
        :channels="channels"
        :pairs="page!.pairs"
        :system="page!.system"
        @changed="changed"
      />
      <ClockPanel
        v-else-if="tool === 'clocks'"
        :records="page!.records"
        :channels="channels"
        :cursor="cursor"
        :system="page!.system"
        @changed="changed"
      />
      <StepsPanel
        v-else-if="tool === 'steps'"
        :record-id="id"
        :channels="channels"
        :steps="page!.steps"
        :system="page!.system"
        :name="main.name"
      />
      <ReadAgain
        v-else-if="tool === 'file'"
        :key="main.id"
        :record="main"
        :columns="channels.filter(c => c.expression === null && c.datasetId === main.id).map(c => c.name)"
        @done="anew"
      />
      <HealthPanel v-else-if="tool === 'health'" :records="page!.records" @changed="changed" />
      <section class="panel">
        <div class="mb-2 flex flex-wrap items-center justify-between gap-2">
          <div>
            <h1 class="text-base">{{ main.name }}</h1>
            <p class="text-xs text-quiet">{{ rowsOf(main) }}</p>
            <p v-for="r in page!.records.slice(1)" :key="r.id" class="text-xs text-quiet">
              with {{ r.name }}: {{ rowsOf(r) }}
            </p>
          </div>
          <div class="no-print flex flex-wrap gap-1.5">
            <button type="button" class="button text-xs" :aria-pressed="overlaid" @click="overlaid = !overlaid">
              {{ overlaid ? 'Overlaid by unit' : 'Stacked' }}
            </button>
            <button
              v-for="t in tools"
              :key="t.id"
              type="button"
              :class="['button text-xs', tool === t.id ? 'border-accent bg-accent-soft' : '']"
              :aria-pressed="tool === t.id"
              @click="tool = tool === t.id ? null : t.id"
            >
              <component :is="t.icon" class="size-3.5" aria-hidden="true" />{{ t.label }}
            </button>
            <NuxtLink v-if="page!.hasTargets" :to="`/targets/${id}`" class="button text-xs"
              ><Grid3x3 class="size-3.5" aria-hidden="true" />Field of targets</NuxtLink
            >
            <button type="button" class="button text-xs" @click="all">
              <Maximize2 class="size-3.5" aria-hidden="true" />Reset zoom <span class="key">Home</span>
            </button>
            <button type="button" class="button text-xs" :disabled="flags.length === 0" @click="nextFlag">
              <ChevronRight class="size-3.5" aria-hidden="true" />Next flag <span class="key">n</span>
            </button>
            <a :href="exportHref" class="button text-xs"
              ><Download class="size-3.5" aria-hidden="true" />{{ selection ? 'Selection' : 'View' }} as CSV</a
            >
          </div>
        </div>
        <ProblemNote :problem="problem" />
        <p v-for="w in main.warnings" :key="w.code + w.message" class="text-xs text-open">{{ w.message }}</p>
        <p v-if="said" class="mb-1 text-sm text-open" role="status">{{ said }}</p>
        <EmptyState
          v-if="chosen.length === 0"
          title="No channel chosen"
          text="Tick channels on the left; they are drawn here over one time axis."
        />
        <RecordStrips
          :channels="channels"
          :strip="strip"
          :derived="tool === 'derive' ? derived : null"
          :system="page!.system"
          :view="view"
          :overlaid="overlaid"
          :room="selection || tool ? 320 : 460"
          :cursor="cursor"
          :selection="selection"
          :flags="marks"
          :events="page!.events"
          :steps="page!.steps"
          @width="width = $event"
          @show="show"
          @zoom="zoom"
          @all="all"
          @cursor="cursor = $event"
          @select="select"
        />
        <p v-if="page!.steps.length > 0" class="text-xs text-quiet">
          Shaded and numbered: the steps of the kept reduction.
        </p>
      </section>
      <SelectionPanel
        v-if="settled"
        :record-id="id"
        :channels="channels"
        :chosen="chosen"
        :selection="settled"
        :system="page!.system"
        :step="step"
        @zoom="show(settled[0], settled[1])"
        @drop="select(null, true)"
      />
      <section class="no-print panel flex flex-wrap items-center gap-2">
        <NuxtLink :to="`/tests/${page!.testId}/run`" class="button text-xs">Add another logger’s file</NuxtLink>
        <span class="ml-auto flex flex-wrap gap-1.5"><DeleteRecord :records="page!.records" @gone="gone" /></span>
      </section>
    </div>
  </main>
</template>
