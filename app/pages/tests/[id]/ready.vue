<script setup lang="ts">
import { Printer } from '@lucide/vue'
import { isOpenItem, useReady, type ReadyTick } from '~/composables/ready/useReady'

const { page, store } = useTest()
const person = usePerson()
const { items, list, groups, open, grids, mark, tryOutput, busy, problem } = useReady()
const fixed = computed(() => page.value.runs.length > 0)
const GAUGE_VIEWS = [
  { value: 'grid', title: 'Grid' },
  { value: 'list', title: 'List' },
] as const
const gaugesAs = useLocalStorage<'grid' | 'list'>('hypomet-ready-gauges', 'grid', { initOnMounted: true })
const at = ref<string | null>(null)
const current = computed(() => list.value.find(i => i.key === at.value) ?? null)
const chosenGauge = computed(() =>
  current.value?.gauge
    ? current.value
    : (list.value.find(i => i.gauge && isOpenItem(i)) ?? list.value.find(i => i.gauge) ?? null),
)
const rest = computed(() => groups.value.filter(g => g.group !== 'Gauges'))
const rowsByKey = new Map<string, { focusReading: () => void; override: () => void }>()
const remember = (key: string, el: unknown) => {
  if (el) rowsByKey.set(key, el as never)
}

async function done(
  item: ReadyTick,
  state: 'open' | 'done' | 'overridden',
  more: { reason?: string; reading?: string },
): Promise<void> {
  const was = await mark(item.key, state, more)
  // In the grid the next open stage of the gauges comes up by itself; a red one stays until it is good or overridden.
  if (gaugesAs.value === 'grid' && item.gauge && was !== 'failed' && was !== undefined && state !== 'open')
    at.value =
      list.value.find(
        i => i.gauge && isOpenItem(i) && list.value.indexOf(i) > list.value.findIndex(x => x.key === item.key),
      )?.key ?? item.key
}
function step(by: 1 | -1): void {
  const i = list.value.findIndex(x => x.key === at.value)
  at.value = list.value[Math.max(0, Math.min(list.value.length - 1, i + by))]?.key ?? null
  void nextTick(() =>
    document.querySelector(`[data-item="${CSS.escape(at.value ?? '')}"]`)?.scrollIntoView({ block: 'nearest' }),
  )
}
onKeyStroke(['j', 'k', ' ', 'o', 'r'], e => {
  if (isTyping(e) || list.value.length === 0 || fixed.value) return
  if (e.key === ' ' && (e.target as HTMLElement).closest('button, a, summary')) return
  e.preventDefault()
  const item = current.value
  if (e.key === 'j') step(1)
  else if (e.key === 'k') step(-1)
  else if (!item) step(1)
  else if (e.key === 'o') rowsByKey.get(item.key)?.override()
  else if (e.key === 'r' || item.reading) rowsByKey.get(item.key)?.focusReading()
  else if (item.automatic === undefined) void done(item, item.state === 'done' ? 'open' : 'done', {})
})
const countOf = (i: readonly ReadyTick[]) => `${i.filter(x => !isOpenItem(x)).length} of ${i.length}`
const gauges = computed(() => list.value.filter(i => i.gauge))
</script>

<template>
  <main class="space-y-3">
    <header class="flex flex-wrap items-end justify-between gap-x-4 gap-y-2">
      <div>
        <h1>{{ open === 0 && items.length > 0 ? 'Ready to load' : `${open} of ${items.length} still open` }}</h1>
        <p class="text-sm text-quiet">
          Made from the plan. What is open blocks the run; it can be overridden by name, with a reason.
        </p>
      </div>
      <div class="flex flex-wrap items-center gap-3">
        <p v-if="!fixed" class="hidden text-xs text-quiet lg:block">
          <span class="key">j</span> <span class="key">k</span> move · <span class="key">space</span> tick ·
          <span class="key">r</span> reading · <span class="key">o</span> override
        </p>
        <NuxtLink :to="`/tests/${page.test.id}/sheets`" class="button"
          ><Printer class="size-4" aria-hidden="true" />Sheets to print</NuxtLink
        >
        <NuxtLink v-if="open === 0 && items.length > 0" :to="`/tests/${page.test.id}/run`" class="button-main"
          >To the run</NuxtLink
        >
      </div>
    </header>
    <EmptyState
      v-if="items.length === 0"
      title="No checklist yet"
      text="The checklist follows from the plan: its channels, ranges and loads."
      action="Plan the test"
      :to="`/tests/${page.test.id}/plan`"
    />
    <ProblemNote :problem="problem" />
    <p v-if="page.view" class="rounded-md bg-caution-ground px-3 py-2 text-sm text-caution">{{ page.view.caution }}</p>
    <FiredLessons :firings="page.firings" :campaign-id="page.campaign.id" :fixed="fixed" @answered="store.refresh()" />
    <section v-if="gauges.length > 0" class="panel" aria-label="Gauges">
      <div class="mb-1 flex items-center justify-between">
        <h2>Gauges · {{ countOf(gauges) }}</h2>
        <ChoiceBar v-model="gaugesAs" :choices="GAUGE_VIEWS" label="Gauges as" />
      </div>
      <template v-if="gaugesAs === 'grid'">
        <div v-if="chosenGauge" class="mb-2 rounded-md border border-line">
          <ReadyRow
            :ref="el => remember(chosenGauge!.key, el)"
            :item="chosenGauge"
            :busy="busy"
            :fixed="fixed"
            :person="person"
            :test-id="page.test.id"
            @mark="(state, more) => done(chosenGauge!, state, more)"
          />
        </div>
        <div class="grid gap-x-4 gap-y-2 xl:grid-cols-2">
          <div
            v-for="g in grids"
            :key="g.key"
            :class="['overflow-x-auto', g.stages.length > 5 ? 'xl:col-span-2' : '']"
            tabindex="-1"
          >
            <GaugeGrid :stages="g.stages" :rows="g.rows" :selected="chosenGauge?.key ?? null" @pick="at = $event" />
          </div>
        </div>
      </template>
      <ul v-else class="divide-y divide-line">
        <li v-for="item in gauges" :key="item.key">
          <ReadyRow
            :ref="el => remember(item.key, el)"
            :item="item"
            :busy="busy"
            :fixed="fixed"
            :person="person"
            :test-id="page.test.id"
            :selected="at === item.key && !fixed"
            @pick="at = item.key"
            @mark="(state, more) => done(item, state, more)"
          />
        </li>
      </ul>
    </section>
    <div class="gap-3 lg:columns-2">
      <section v-for="g in rest" :key="g.group" class="panel mb-3 break-inside-avoid">
        <h2 class="mb-1">{{ g.group }} · {{ countOf(g.items) }}</h2>
        <ul class="divide-y divide-line">
          <li v-for="item in g.items" :key="item.key">
            <ReadyRow
              :ref="el => remember(item.key, el)"
              :item="item"
              :busy="busy"
              :fixed="fixed"
              :person="person"
              :test-id="page.test.id"
              :selected="at === item.key && !fixed"
              @pick="at = item.key"
              @changed="store.refresh()"
              @try="tryOutput"
              @mark="(state, more) => done(item, state, more)"
            />
          </li>
        </ul>
      </section>
    </div>
  </main>
</template>
