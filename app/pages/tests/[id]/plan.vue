<script setup lang="ts">
import { CalendarPlus, Redo2, TriangleAlert, Undo2, X } from '@lucide/vue'
import { parseSettings, PREDICTION_METHODS, type StaticArticle } from '@hypomet/core'
import { newPlan } from '~/composables/newPlan'
import { copyOf, type PlanDraft } from '~/composables/usePlanDraft'

const { page, store, family, units, resultLabel, resultKind } = useTest()

const fixed = page.value.runs.length > 0
const { draft, view, problems, problemAt, history, saved, saveProblem } = usePlanDraft((page.value.test.plan ?? newPlan(page.value.revision.properties, page.value.limits)) as PlanDraft, fixed)
const selected = ref(1)
const rung = computed(() => draft.value.rungs[selected.value])
const prefer = computed(() => units.prefer.value)
const ladder = computed(() => (view.value?.rungs ?? []).map(r => ({ ...r, expected: r.expectedReading })))
const article = computed(() => parseSettings(family.value.stages.article, page.value.revision.properties, 'properties') as StaticArticle)

function addRung(): void {
  const at = selected.value + 1
  draft.value.rungs.splice(at, 0, copyOf(draft.value.rungs[selected.value]!))
  selected.value = at
}
function removeRung(): void {
  draft.value.rungs.splice(selected.value, 1)
  selected.value = Math.max(0, selected.value - 1)
}
const methodWords: Record<string, string> = Object.fromEntries(PREDICTION_METHODS.map(m => [m.value, m.label]))
/** Where and how others expect it to fail. */
const failures = computed(() => [...new Set(page.value.predictions.filter(p => p.place || p.mode).map(p => `${p.source}: ${[p.mode, p.place].filter(Boolean).join(', ').toLowerCase()}`))])
const strip = (p: string) => p.replace(/^settings\./, '')
// What was said of the revision may be locked by another test of it; this one has its own copies from its first sample on.
const locked = computed(() => page.value.predictions.some(p => p.lockedAt && p.testId !== null))
/** Every source beside the others; the plan's own calculation joins what stands until the first sample locks them. */
const predictions = computed(() => {
  const own = locked.value ? [] : (view.value?.predictions ?? []).map(p => ({ ...p, k: 2, bound: 'exact' as const, source: 'beam calculation' }))
  const all = [...page.value.predictions.map(p => ({ ...p, source: p.method === 'scaled' || p.method === 'calculation' ? p.source : `${methodWords[p.method] ?? p.method}: ${p.source}` })), ...own]
  const sources = [...new Set(all.map(p => p.source))]
  const quantities = ['stiffness', ...page.value.limits.map(l => l.quantity)].filter((q, i, list) => list.indexOf(q) === i && all.some(p => p.quantity === q))
  return { sources, rows: quantities.map(quantity => ({ quantity, cells: sources.map(s => all.find(p => p.quantity === quantity && p.source === s)) })) }
})
onKeyStroke(['z', 'Z'], e => {
  if (!(e.ctrlKey || e.metaKey) || (e.target as HTMLElement).closest('input')) return
  e.preventDefault()
  if (e.shiftKey) history.redo()
  else history.undo()
})
</script>

<template>
  <main class="grid grid-cols-[27rem_1fr] gap-3">
    <div class="space-y-3">
      <section class="panel">
        <div class="mb-2 flex items-center justify-between">
          <h2>Load ladder</h2>
          <div v-if="!fixed" class="flex items-center gap-1 text-xs text-quiet">
            <span role="status">{{ problems.length > 0 ? 'not saved yet' : saved ? 'saved' : 'saving …' }}</span>
            <button type="button" class="button px-1.5" :disabled="!history.canUndo.value" title="Undo (Ctrl Z)" aria-label="Undo" @click="history.undo()"><Undo2 class="size-3.5" aria-hidden="true" /></button>
            <button type="button" class="button px-1.5" :disabled="!history.canRedo.value" title="Redo" aria-label="Redo" @click="history.redo()"><Redo2 class="size-3.5" aria-hidden="true" /></button>
          </div>
          <span v-else class="text-xs text-quiet">run: the plan stands</span>
        </div>
        <StepLadder :rungs="ladder" :show-load="v => units.show(v, 'force', { digits: 3 })" :show-reading="v => units.show(v, view!.read.kind, { digits: 3 })" :editable="!fixed" :selected="fixed ? undefined : selected" @select="selected = $event" />
        <p class="mt-1 text-xs text-quiet">First rung at the bottom; <span class="text-predicted">⋯ expected {{ view ? view.read.role : '' }}</span> beside each.</p>
        <div v-if="!fixed && rung" class="mt-2 grid grid-cols-[1fr_1fr_auto_auto] items-end gap-2 border-t border-line pt-2">
          <QuantityField v-model="(rung.target as never)" kind="force" :prefer="prefer" :label="`Rung ${selected + 1}: target`" :problem="problemAt(`rungs.${selected}.target`)" />
          <QuantityField v-model="(rung.hold as never)" kind="time" :prefer="prefer" label="Hold" :problem="problemAt(`rungs.${selected}.hold`)" />
          <button type="button" class="button" @click="addRung">Add above</button>
          <button type="button" class="button" :disabled="draft.rungs.length <= 2" @click="removeRung">Remove</button>
        </div>
      </section>
      <section class="panel">
        <h2 class="mb-2">Numbers</h2>
        <div class="grid grid-cols-3 gap-2">
          <QuantityField v-model="(draft.designLoad as never)" kind="force" :prefer="prefer" label="Design load" :disabled="fixed" :problem="problemAt('designLoad')" />
          <QuantityField v-model="(draft.ramp as never)" kind="time" :prefer="prefer" label="Between rungs" :disabled="fixed" :problem="problemAt('ramp')" />
          <QuantityField v-model="(draft.rate as never)" kind="frequency" :prefer="prefer" label="Sample rate" :disabled="fixed" :problem="problemAt('rate')" />
          <QuantityField v-model="(draft.minHold as never)" kind="time" :prefer="prefer" label="Shortest hold" :disabled="fixed" :problem="problemAt('minHold')" />
          <QuantityField v-model="(draft.holdTolerance as never)" kind="force" :prefer="prefer" label="Hold tolerance" :disabled="fixed" :problem="problemAt('holdTolerance')" />
          <QuantityField v-model="(draft.predictionBand as never)" kind="ratio" :prefer="{ ratio: '%' }" label="Band of calculation" :disabled="fixed" :problem="problemAt('predictionBand')" />
        </div>
        <h2 class="mb-1 mt-3">Where the load goes in</h2>
        <div v-for="(l, i) in draft.loads" :key="i" class="mb-1 grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <QuantityField v-model="(l.x as never)" kind="length" :prefer="prefer" label="From the root" :disabled="fixed" :problem="problemAt(`loads.${i}.x`)" />
          <QuantityField v-model="(l.share as never)" kind="ratio" :prefer="{ ratio: '%' }" label="Share of the load" :disabled="fixed" :problem="problemAt(`loads.${i}.share`)" />
          <button v-if="!fixed" type="button" class="button px-1.5" :disabled="draft.loads.length === 1" :aria-label="`Remove load ${i + 1}`" @click="draft.loads.splice(i, 1)"><X class="size-3.5" aria-hidden="true" /></button>
        </div>
        <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <QuantityField v-model="(draft.deflectionAt as never)" kind="length" :prefer="prefer" label="Deflection read at" :disabled="fixed" :problem="problemAt('deflectionAt')" />
          <button v-if="!fixed" type="button" class="button text-xs" @click="draft.loads.push({ x: copyOf(draft.deflectionAt), share: 0.5 })">Another load</button>
        </div>
        <ul v-if="problems.length > 0" role="alert" class="mt-2 space-y-0.5 text-xs text-fail"><li v-for="p in problems" :key="p.place.path">{{ p.message }} <span class="text-quiet">({{ strip(p.place.path ?? '') }})</span></li></ul>
        <ProblemNote class="mt-2" :problem="saveProblem" />
      </section>
    </div>
    <div class="min-w-0 space-y-3">
      <FiredLessons :firings="page.firings" :campaign-id="page.campaign.id" :fixed="fixed" @answered="store.refresh()" />
      <section class="panel">
        <div class="flex items-baseline justify-between"><h2>Set-up at the top rung</h2><span v-if="view" class="text-xs text-quiet">{{ units.show(view.maxTarget, 'force') }} · {{ Math.round(view.duration / 60) }} min of ladder · deflection drawn to scale</span></div>
        <ArmDiagram v-if="view" :article="article" :plan="draft" :view="view" :prefer="prefer" class="max-h-60" />
      </section>
      <div class="grid grid-cols-2 gap-3">
        <section class="panel">
          <h2 class="mb-1">Prediction {{ locked ? '· locked' : '· locks at the first sample' }}</h2>
          <table class="data">
            <thead><tr><th>Result</th><th v-for="s in predictions.sources" :key="s" class="number">{{ s }}</th></tr></thead>
            <tbody><tr v-for="r in predictions.rows" :key="r.quantity"><td>{{ resultLabel(r.quantity) }}</td><td v-for="(p, i) in r.cells" :key="i" class="number whitespace-nowrap text-predicted">{{ units.result(p, resultKind(r.quantity)) }}</td></tr></tbody>
          </table>
          <p v-if="view" class="mt-1 text-xs text-quiet">Expected to end by {{ view.failure.mode }}, {{ view.failure.place === 0 ? 'at the root' : `${units.show(view.failure.place, 'length')} from the root` }}.</p>
          <ul v-if="failures.length > 0" class="text-xs text-predicted"><li v-for="f in failures" :key="f">⋯ {{ f }}</li></ul>
          <p v-if="!locked" class="mt-1 text-xs"><NuxtLink :to="`/campaigns/${page.campaign.slug}/prediction`">Enter what others predict</NuxtLink></p>
        </section>
        <section v-if="view" class="panel border-caution/50 bg-caution-ground text-caution">
          <h2 class="mb-1 flex items-center gap-1.5 text-caution!"><TriangleAlert class="size-4" aria-hidden="true" />Stored energy</h2>
          <p class="text-2xl font-bold">{{ units.show(view.storedEnergy, 'energy', { digits: 3 }) }}</p>
          <p class="text-sm">{{ view.caution }}</p>
        </section>
      </div>
      <section class="panel">
        <div class="flex items-baseline justify-between"><h2>Channels and their range</h2><NuxtLink to="/sensors" class="text-xs">Sensor inventory</NuxtLink></div>
        <ChannelTable v-if="view" v-model="draft.channels" :views="view.channels" :sensors="page.sensors" :prefer="prefer" :fixed="fixed" />
        <div v-if="view && !fixed" class="-mt-8 flex justify-end"><NuxtLink :to="`/tests/${page.test.id}/ready`" class="button-main"><CalendarPlus class="size-4" aria-hidden="true" />To the checklist</NuxtLink></div>
      </section>
    </div>
  </main>
</template>
