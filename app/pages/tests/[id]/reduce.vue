<script setup lang="ts">
import { Check } from '@lucide/vue'
import { columnFormatter, isHypometError, quantityToSi, type Figure, type Kind, type MethodOutput, type QuantityInput } from '@hypomet/core'
import type { Strip } from '../../../../server/db/samples'

interface Reduced {
  id: number | null
  settings: Record<string, unknown>
  output: MethodOutput
  figures: Record<string, Figure>
}

const { page, predictedCurves, api, store, units, family, resultLabel, resultKind } = useTest()
const { busy, problem, run } = useAction()
const kept = computed(() => page.value.reductions[0] ?? null)
const draft = ref<Record<string, unknown>>({ ...(kept.value?.settings ?? {}) })
const shown = shallowRef<Reduced | null>(kept.value ? { id: kept.value.id, settings: kept.value.settings, output: kept.value.output, figures: kept.value.figures } : null)
const strip = shallowRef<Strip | null>(null)
const hasData = computed(() => page.value.datasets.length > 0)
/** Files of other loggers that belong to the record. */
const joined = computed(() => page.value.datasets.filter(d => d.joinsId === page.value.datasets[0]?.id))

const compute = (settings: Record<string, unknown> | null, keep: boolean) => run(async () => {
  const reduced = await api.post<Reduced>(`/api/tests/${page.value.test.id}/reduce`, { settings, keep })
  shown.value = reduced
  draft.value = { ...reduced.settings }
  if (keep) await store.refresh()
})
const recompute = useDebounceFn(() => compute(draft.value, false), 250)
function set(key: string, value: unknown): void {
  const next = { ...draft.value, [key]: value }
  if (value === null) delete next[key]
  draft.value = next
  void recompute()
}

onMounted(async () => {
  if (!hasData.value) return
  if (!shown.value) await compute(null, false)
  try {
    strip.value = await api.get<Strip>(`/api/tests/${page.value.test.id}/strip?roles=load,deflection&width=1200`)
  } catch (e) {
    if (!isHypometError(e)) throw e
    problem.value = e
  }
})

const unsaved = computed(() => shown.value !== null && (kept.value === null || JSON.stringify(shown.value.output) !== JSON.stringify(kept.value.output)))
const rows = computed(() => Object.entries(shown.value?.output.results ?? {}).map(([key, r]) => {
  const before = kept.value?.output.results[key]
  const changed = unsaved.value && kept.value !== null && JSON.stringify(before) !== JSON.stringify(r)
  return { key, label: resultLabel(key), now: units.result(r, resultKind(key)), before: changed ? units.result(before, resultKind(key)) : null, bound: r.bound, U: r.u === undefined || r.value === null || r.value === 0 ? null : Math.abs((100 * r.u * (r.k ?? 2)) / r.value) }
}))

const figure = computed<Figure | null>(() => {
  const f = shown.value?.figures['loadDeflection']
  if (!f) return null
  return { ...f, series: [...predictedCurves('loadDeflection'), ...f.series] }
})
const windows = computed(() => (['zeroStart', 'zeroEnd'] as const).flatMap(key => {
  const w = draft.value[key] as [number, number] | undefined
  return w ? [{ from: w[0], to: w[1], label: key === 'zeroStart' ? 'zero' : 'end zero' }] : []
}))
const timeFigure = computed<Figure | null>(() => {
  const load = strip.value?.channels['load']
  if (!strip.value || !load) return null
  return { x: { label: 'Time', kind: 'time' }, y: { label: 'Load as recorded', kind: 'force' }, series: [{ name: 'Load as recorded', style: 'measured', x: strip.value.t, y: load.max }], lines: [], bands: windows.value }
})

const steps = computed(() => shown.value?.output.tables['steps'] ?? null)
const stepRows = computed(() => {
  const s = steps.value
  if (!s) return []
  const c = s.columns as Record<string, (number | null)[]>
  const channels = Object.keys(c).filter(k => k.endsWith('Mean')).map(k => k.slice(0, -4)).map(role => {
    const write = columnFormatter(c[`${role}Mean`]!, kindOf(role), { prefer: units.prefer.value })
    return { role, mean: c[`${role}Mean`]!.map(write), creep: c[`${role}Creep`]!.map(write) }
  })
  return c['start']!.map((start, i) => ({ start, end: c['end']![i]!, n: c['n']![i]!, cells: channels.map(ch => ({ role: ch.role, mean: ch.mean[i]!, creep: ch.creep[i]! })) }))
})
const kindOf = (role: string): Kind => page.value.view?.channels.find(c => c.role === role)?.kind ?? 'ratio'
const channelLabel = (role: string) => page.value.view?.channels.find(c => c.role === role)?.label ?? role
const at = (key: string) => (problem.value?.place.path?.startsWith(`settings.${key}`) ? problem.value.message : undefined)
const window = (key: 'zeroStart' | 'zeroEnd') => draft.value[key] as [number, number] | undefined
const outcomes = [{ value: 'no-failure', label: 'nothing failed' }, { value: 'article', label: 'the article failed' }, { value: 'fixture', label: 'the fixture gave way' }]
function setEdge(key: 'zeroStart' | 'zeroEnd', edge: 0 | 1, q: QuantityInput | null): void {
  if (q === null) return
  const w = [...window(key)!] as [number, number]
  w[edge] = typeof q === 'number' ? q : quantityToSi(q, 'time')
  set(key, w)
}
</script>

<template>
  <main>
    <EmptyState v-if="!hasData" title="Nothing to reduce yet" text="Run the test, or import a logger’s file." action="To the run" :to="`/tests/${page.test.id}/run`" />
    <div v-else class="grid grid-cols-[19rem_1fr] gap-3">
      <div class="space-y-3">
        <section class="panel space-y-2">
          <h2>1 · Readings</h2>
          <p class="text-sm"><span class="font-medium">{{ page.datasets[0]!.name }}</span><br><span class="text-quiet">{{ page.datasets[0]!.rows }} rows · SHA-256 {{ page.datasets[0]!.sha256?.slice(0, 12) }}</span></p>
          <p v-for="d in joined" :key="d.id" class="text-sm">with <span class="font-medium">{{ d.name }}</span><br><span class="text-quiet">{{ d.rows }} rows, clock set by {{ d.clockOffset }} s</span></p>
          <NuxtLink :to="`/records/${page.datasets[0]!.id}`" class="text-sm">Look at the record</NuxtLink>
        </section>
        <section class="panel space-y-2">
          <h2>2 · Zero</h2>
          <div v-for="key in (['zeroStart', 'zeroEnd'] as const)" :key="key">
            <p class="label">{{ key === 'zeroStart' ? 'Zero at the start' : 'Zero at the end' }}</p>
            <div v-if="window(key)" class="flex items-center gap-1.5">
              <QuantityField hide-label :label="`${key} from`" kind="time" :prefer="units.prefer.value" :model-value="window(key)![0]" @update:model-value="setEdge(key, 0, $event)" /><span class="text-quiet">to</span>
              <QuantityField hide-label :label="`${key} to`" kind="time" :prefer="units.prefer.value" :model-value="window(key)![1]" @update:model-value="setEdge(key, 1, $event)" />
              <button v-if="key === 'zeroEnd'" type="button" class="button px-1.5 text-xs" aria-label="No zero at the end" @click="set(key, null)">none</button>
            </div>
            <button v-else type="button" class="button text-xs" @click="set(key, [strip?.t.at(-1)! - 10, strip?.t.at(-1)])">none: take the last 10 s</button>
            <p v-if="at(key)" class="problem">{{ at(key) }}</p>
          </div>
        </section>
        <section class="panel grid grid-cols-2 gap-2">
          <h2 class="col-span-2">3 · Steps</h2>
          <QuantityField :model-value="(draft.minHold as never)" kind="time" :prefer="units.prefer.value" label="Shortest hold" :problem="at('minHold')" @update:model-value="set('minHold', $event)" />
          <QuantityField :model-value="(draft.holdTolerance as never)" kind="force" :prefer="{ force: 'N' }" label="Tolerance ±" :problem="at('holdTolerance')" @update:model-value="set('holdTolerance', $event)" />
        </section>
        <section class="panel grid gap-2">
          <h2>4 · Result</h2>
          <QuantityField :model-value="(draft.designLoad as never)" kind="force" :prefer="units.prefer.value" label="Design load" :problem="at('designLoad')" @update:model-value="set('designLoad', $event)" />
          <label><span class="label">What ended the test</span><select class="field" :value="draft.outcome" @change="set('outcome', ($event.target as HTMLSelectElement).value)"><option v-for="o in outcomes" :key="o.value" :value="o.value">{{ o.label }}</option></select></label>
          <button type="button" class="button text-xs" :disabled="busy" @click="compute(null, false)">Propose from the record</button>
        </section>
        <button type="button" class="button-main w-full" :disabled="busy || !unsaved || shown === null" @click="compute(draft, true)"><Check class="size-4" aria-hidden="true" />{{ kept ? (unsaved ? 'Keep these results' : 'Kept') : 'Keep results' }}</button>
        <p v-if="kept" class="text-xs text-quiet">Kept {{ moment(kept.createdAt) }} by {{ kept.by }}, method {{ kept.family }} {{ kept.methodVersion }}{{ kept.supersedesId ? ', supersedes an earlier one' : '' }}.</p>
        <ProblemNote :problem="problem" />
      </div>
      <div class="min-w-0 space-y-3">
        <div class="grid grid-cols-[1fr_24rem] gap-3">
          <section class="panel min-w-0"><FigureChart v-if="figure" :figure="figure" :prefer="units.prefer.value" :name="`load-deflection-${page.test.id}`" height="330px" /></section>
          <section class="panel">
            <h2 class="mb-1">Results{{ unsaved && kept ? ', new against kept' : '' }}</h2>
            <table class="data">
              <tbody>
                <tr v-for="r in rows" :key="r.key"><td>{{ r.label }}<span v-if="r.U !== null" class="block text-xs text-quiet">U {{ r.U.toFixed(1) }} % of it</span></td><td class="number font-semibold">{{ r.now }}<span v-if="r.before" class="block text-xs font-normal text-quiet line-through">{{ r.before }}</span></td></tr>
              </tbody>
            </table>
            <p v-for="w in shown?.output.warnings ?? []" :key="w.code" class="mt-1 text-xs text-open">{{ w.message }}</p>
            <p v-if="draft.outcome !== 'article'" class="mt-1 text-xs text-quiet">≥: {{ draft.outcome === 'fixture' ? 'the fixture ended the test, so' : 'nothing failed, so' }} the largest load is a lower bound of what the article carries.</p>
          </section>
        </div>
        <section class="panel"><FigureChart v-if="timeFigure" :figure="timeFigure" :prefer="units.prefer.value" :name="`time-${page.test.id}`" height="170px" /></section>
        <section v-if="stepRows.length > 0" class="panel overflow-x-auto">
          <h2 class="mb-1">Steps found in the record: means over each hold, and creep during it</h2>
          <table class="data">
            <thead><tr><th class="number">From</th><th class="number">To</th><th class="number">n</th><template v-for="c in stepRows[0]!.cells" :key="c.role"><th class="number">{{ channelLabel(c.role) }}</th><th class="number">creep</th></template></tr></thead>
            <tbody>
              <tr v-for="(s, i) in stepRows" :key="i"><td class="number">{{ s.start!.toFixed(1) }} s</td><td class="number">{{ s.end.toFixed(1) }} s</td><td class="number">{{ s.n }}</td><template v-for="c in s.cells" :key="c.role"><td class="number">{{ c.mean }}</td><td class="number text-quiet">{{ c.creep }}</td></template></tr>
            </tbody>
          </table>
        </section>
        <div v-if="kept && !unsaved" class="flex justify-end"><NuxtLink :to="`/tests/${page.test.id}/judge`" class="button-main">To the judgement</NuxtLink></div>
      </div>
    </div>
    <span class="sr-only">{{ family.title }}</span>
  </main>
</template>
