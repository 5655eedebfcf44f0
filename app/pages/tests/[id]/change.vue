<script setup lang="ts">
import { ArrowRight } from '@lucide/vue'
import type { Advice, Candidate, QuantityInput } from '@hypomet/core'

const { page, api, units, family, resultKind, resultLabel } = useTest()
const { busy, problem, run } = useAction()
const undo = useUndoStore()
const advice = shallowRef<Advice | null>(null)
const settings = reactive<Record<string, QuantityInput>>({ wantedMargin: 0.02, wallStep: { value: 0.25, unit: 'mm' }, minimumWall: { value: 1, unit: 'mm' } })
const size = () => run(async () => { advice.value = await api.post<Advice>(`/api/tests/${page.value.test.id}/advice`, { settings }) })
const hasResults = computed(() => page.value.reductions.length > 0)
/** Kinds of test whose changes are sized here. */
const isSized = computed(() => family.value.stages.advise !== undefined)
onMounted(() => hasResults.value && isSized.value && size())
watch(settings, () => void size())

const accepting = shallowRef<Candidate | null>(null)
const label = ref('')
function choose(c: Candidate): void {
  accepting.value = c
  label.value = nextLabel(page.value.revisions.at(-1)!.label)
}
const accept = () => run(async () => {
  const { testId, step } = await api.post<{ testId: number; step: string }>(`/api/tests/${page.value.test.id}/accept`, { candidateId: accepting.value!.id, label: label.value, settings })
  undo.did(step, `revision ${label.value} decided`)
  accepting.value = null
  await navigateTo(`/tests/${testId}/plan`)
})
const limitOf = (id: number) => page.value.limits.find(l => l.id === id)!
const mass = (kg: number) => units.show(kg, 'mass', { digits: 3 })
const signed = (kg: number) => `${kg >= 0 ? '+' : ''}${mass(kg)}`
const predicted = (c: Candidate, quantity: string) => c.predictions[quantity] ?? null
const drivers: Record<string, string> = { stiffness: 'stiffness-driven', strength: 'strength-driven', set: 'set-driven' }
</script>

<template>
  <main>
    <EmptyState v-if="!hasResults" title="Nothing to size from yet" text="Changes are sized from measured stiffness and strength." action="To the reduction" :to="`/tests/${page.test.id}/reduce`" />
    <EmptyState v-else-if="!isSized && !page.next" title="What follows from these results?" :text="`Changes of ${family.title.toLowerCase()} tests are not sized here yet. Make the next revision on the article’s page with what was found, and carry the results on by the worksheets at the end of Reduce.`" action="To the article" :to="`/articles/${page.article.id}`" />
    <div v-else class="space-y-3">
      <section v-if="page.next" class="panel flex items-center justify-between border-accent">
        <p>Revision <strong>{{ page.next.label }}</strong> was decided on these results.</p>
        <NuxtLink v-if="page.next.testId" :to="`/tests/${page.next.testId}/plan`" class="button-main">Its test, with the prediction waiting <ArrowRight class="size-4" aria-hidden="true" /></NuxtLink>
      </section>
      <div class="grid grid-cols-[1fr_21rem] gap-3">
        <section class="panel">
          <h2 class="mb-1">What drives the change</h2>
          <template v-if="advice">
            <p class="text-lg font-semibold">{{ advice.overDesigned ? 'Every limit is met with the wanted margin: mass can come out' : advice.driver ? `${advice.driver.limit.name}: ${drivers[advice.driver.driver]}` : 'No limit can be sized for' }}</p>
            <table class="data mt-1">
              <thead><tr><th>Limit</th><th>Driven by</th><th class="number">Needed over actual, uncertainty and margin inside</th></tr></thead>
              <tbody>
                <tr v-for="n in advice.needs" :key="n.limit.id"><td>{{ n.limit.name }}</td><td>{{ n.driver }}</td><td :class="['number font-semibold', n.ratio > 1 ? 'text-fail' : 'text-pass']">{{ n.ratio.toFixed(3) }} {{ n.ratio > 1 ? '· short' : '· met' }}</td></tr>
                <tr v-for="l in advice.undemonstrated" :key="l.id"><td>{{ l.name }}</td><td colspan="2" class="text-open">not shown by this test (only a bound): test again before sizing for it</td></tr>
              </tbody>
            </table>
            <p class="mt-2 text-xs text-quiet">Measured over calculated: stiffness {{ advice.calibration.stiffness.toFixed(3) }}, strength {{ advice.calibration.strengthBound === 'exact' ? '' : '≥ ' }}{{ advice.calibration.strength.toFixed(3) }}. Candidates scale the beam calculation by these; a tenth of the logarithm of the change is added to each band as doubt.</p>
          </template>
          <p v-else class="text-quiet">Sizing …</p>
        </section>
        <section class="panel grid grid-cols-1 gap-2 self-start">
          <h2>Rules for sizing</h2>
          <QuantityField v-model="settings.wantedMargin!" kind="ratio" :prefer="{ ratio: '%' }" label="Margin wanted beyond each limit" />
          <QuantityField v-model="settings.wallStep!" kind="length" :prefer="units.prefer.value" label="Walls come in steps of" />
          <QuantityField v-model="settings.minimumWall!" kind="length" :prefer="units.prefer.value" label="Thinnest wall" />
        </section>
      </div>
      <ProblemNote :problem="problem" />
      <section v-if="advice" class="panel">
        <h2 class="mb-1">{{ advice.candidates.length }} candidates that meet every limit, lightest first</h2>
        <table class="data">
          <thead><tr><th>Change</th><th class="number">Mass</th><th class="number">Lead time</th><th v-for="l in page.limits" :key="l.id" class="w-44">{{ l.name }}</th><th><span class="sr-only">Accept</span></th></tr></thead>
          <tbody>
            <tr v-for="c in advice.candidates" :key="c.id" :data-candidate="c.id">
              <td>
                <p class="font-semibold">{{ c.title }}</p>
                <p v-for="k in c.changes.slice(0, 3)" :key="k.property" class="text-xs">{{ k.label }} {{ units.show(k.from, k.kind, { digits: 3 }) }} → <strong>{{ units.show(k.to, k.kind, { digits: 3 }) }}</strong></p>
                <p class="text-xs text-quiet">Touches: {{ c.touches.join('; ') }}</p>
              </td>
              <td class="number whitespace-nowrap"><span class="font-semibold">{{ signed(c.massChange) }}</span><span class="block text-xs text-quiet">{{ mass(c.mass) }} in all</span></td>
              <td class="number whitespace-nowrap">{{ c.leadTimeDays > 0 ? `${c.leadTimeDays} d` : '–' }}</td>
              <td v-for="l in page.limits" :key="l.id">
                <template v-if="predicted(c, l.quantity)">
                  <LimitRail :label="`${c.title}: ${l.name}`" :limit="l.value" :comparator="l.comparator" :result="predicted(c, l.quantity)" :verdict="c.decisions.find(d => d.limitId === l.id)?.decision.verdict ?? 'undecided'" :show="v => units.show(v, resultKind(l.quantity))" />
                  <p class="text-xs text-predicted">⋯ {{ units.result(predicted(c, l.quantity)!, resultKind(l.quantity)) }}</p>
                </template>
                <span v-else class="text-xs text-quiet">not measured</span>
              </td>
              <td><button type="button" class="button-main whitespace-nowrap text-sm" :disabled="page.next !== null" @click="choose(c)">Accept</button></td>
            </tr>
          </tbody>
        </table>
        <p v-for="r in advice.ruledOut" :key="r.title" class="mt-2 text-sm text-quiet"><span class="font-medium text-ink">{{ r.title }}</span>: {{ r.reason }}.</p>
      </section>
    </div>
    <BaseDialog :open="accepting !== null" :title="`Make “${accepting?.title}” the next revision?`" description="It takes the properties below, and a test with the same plan whose predictions lock when its first sample comes in." @close="accepting = null">
      <form v-if="accepting" class="space-y-3" @submit.prevent="accept">
        <ul class="text-sm"><li v-for="k in accepting.changes" :key="k.property">{{ k.label }}: {{ units.show(k.from, k.kind, { digits: 3 }) }} → <strong>{{ units.show(k.to, k.kind, { digits: 3 }) }}</strong></li></ul>
        <table class="data"><tbody><tr v-for="(p, key) in accepting.predictions" :key="key"><td>{{ resultLabel(String(key)) }}{{ page.limits.some(l => l.quantity === key) ? ` · ${limitOf(page.limits.find(l => l.quantity === key)!.id).name}` : '' }}</td><td class="number text-predicted">{{ units.result(p, resultKind(String(key))) }}</td></tr></tbody></table>
        <label class="block"><span class="label">Label of the revision</span><input v-model="label" class="field w-24"></label>
        <div class="flex justify-end gap-2"><button type="button" class="button" @click="accepting = null">Not yet</button><button class="button-main" :disabled="busy">Make revision {{ label }}</button></div>
      </form>
    </BaseDialog>
  </main>
</template>
