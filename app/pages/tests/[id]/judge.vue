<script setup lang="ts">
import { Gavel } from '@lucide/vue'
import { LIMIT_LEVELS, type Result } from '@hypomet/core'

const { page, api, store, units } = useTest()
const { judged } = useVerdicts()
const { busy, problem, run } = useAction()
const reduction = computed(() => page.value.reductions[0] ?? null)
const standing = computed(() => (page.value.judgement?.reductionId === reduction.value?.id ? page.value.judgement : null))
const defaultCause = computed(() => ({ article: 'article', fixture: 'fixture' } as Record<string, string>)[String(reduction.value?.settings['outcome'])] ?? 'none')
const form = reactive({ validity: standing.value?.validity ?? 'valid', cause: standing.value?.cause ?? defaultCause.value, place: standing.value?.place ?? '', mode: standing.value?.mode ?? '', note: standing.value?.note ?? '' })

const levels: Record<string, string> = Object.fromEntries(LIMIT_LEVELS.map(l => [l.value, l.label.toLowerCase()]))
/** A limit that was changed since it was judged: what was decided on it is open again. */
const reopened = computed(() => (standing.value?.verdicts.filter(v => !v.stands) ?? []).map(v => v.limitId))
const predictionsFor = (quantity: string) => page.value.predictions.filter(p => p.quantity === quantity)
/** Measured against predicted; of a bound only what share of the prediction it reached. */
function difference(result: Result | null, predicted: number): string {
  if (!result || result.value === null || predicted === 0) return ''
  const ratio = result.value / predicted
  if (result.bound !== 'exact') return `, ${Math.round(100 * ratio)} % of it shown`
  return `, measured ${ratio >= 1 ? '+' : '−'}${Math.abs(100 * (ratio - 1)).toFixed(1)} %`
}
const conformity = (p: number | null) => (p === null ? '' : p > 0.999 ? 'Over 99.9 % likely within the limit.' : p < 0.001 ? 'Under 0.1 % likely within the limit.' : `${(100 * p).toFixed(p > 0.99 || p < 0.01 ? 1 : 0)} % likely within the limit.`)

const judge = () => run(async () => {
  await api.post(`/api/tests/${page.value.test.id}/judge`, form)
  await store.refresh()
})
const validities = [{ value: 'valid', label: 'Yes' }, { value: 'valid-with-remarks', label: 'Yes, with remarks' }, { value: 'invalid', label: 'No: it shows nothing' }]
const causes = [{ value: 'none', label: 'Nothing failed' }, { value: 'article', label: 'The article' }, { value: 'fixture', label: 'The fixture' }, { value: 'instrumentation', label: 'Instrumentation' }, { value: 'procedure', label: 'Procedure' }, { value: 'manufacture', label: 'Manufacture' }]
</script>

<template>
  <main>
    <EmptyState v-if="!reduction" title="Nothing to judge yet" text="A judgement stands on a kept reduction." action="To the reduction" :to="`/tests/${page.test.id}/reduce`" />
    <div v-else class="grid grid-cols-[1fr_22rem] items-start gap-3">
      <div class="space-y-3">
        <EmptyState v-if="judged.length === 0" title="No limits to judge against" text="Limits belong to the article; add them on the campaign page." action="To the campaign" :to="`/campaigns/${page.campaign.slug}`" />
        <article v-for="j in judged" :key="j.limit.id" class="panel" :data-limit="j.limit.name">
          <header class="mb-2 flex items-baseline justify-between gap-4">
            <div><p class="text-base font-semibold">{{ j.limit.name }}</p><p class="text-xs text-quiet">{{ units.limit(j.limit, j.kind) }} · {{ levels[j.limit.level] }}{{ j.limit.source ? ` · ${j.limit.source}` : '' }}</p></div>
            <div class="text-right"><p class="text-xl font-bold">{{ units.result(j.result ?? undefined, j.kind) }}</p><p class="text-xs text-quiet" :title="j.otherMargin">{{ j.margin }}<template v-if="j.otherMargin"> ({{ j.otherMargin }})</template></p></div>
          </header>
          <LimitRail :label="j.limit.name" :limit="j.limit.value" :comparator="j.limit.comparator" :result="j.result" :verdict="j.decision.verdict" :predicted="predictionsFor(j.limit.quantity)[0] ?? null" :show="v => units.show(v, j.kind)" />
          <div class="mt-2 flex items-start justify-between gap-4 text-sm">
            <p><VerdictMark :verdict="j.decision.verdict" class="mr-2" /><span class="text-quiet">{{ j.decision.reason }} {{ conformity(j.decision.conformity) }}</span></p>
            <ul class="shrink-0 text-right text-xs text-predicted"><li v-for="p in predictionsFor(j.limit.quantity)" :key="p.id">⋯ {{ p.source }}: {{ units.result({ value: p.value, bound: p.bound, u: p.u, k: p.k }, j.kind) }}<span class="text-quiet">{{ difference(j.result, p.value) }}</span></li></ul>
          </div>
        </article>
      </div>
      <div class="space-y-3">
      <form class="panel space-y-3" @submit.prevent="judge">
        <h2>Cause and validity</h2>
        <fieldset><legend class="label">Does the test count?</legend><label v-for="v in validities" :key="v.value" class="flex items-center gap-2 py-0.5"><input v-model="form.validity" type="radio" name="validity" :value="v.value">{{ v.label }}</label></fieldset>
        <label class="block"><span class="label">What ended it</span><select v-model="form.cause" class="field"><option v-for="c in causes" :key="c.value" :value="c.value">{{ c.label }}</option></select></label>
        <label class="block"><span class="label">Where</span><input v-model="form.place" class="field" placeholder="Root clamp, lower jaw"></label>
        <label class="block"><span class="label">How</span><input v-model="form.mode" class="field" placeholder="Insert sheared"></label>
        <label class="block"><span class="label">What was seen</span><textarea v-model="form.note" class="field" rows="3" /></label>
        <p v-if="form.cause === 'fixture' && reduction.settings['outcome'] !== 'fixture'" class="text-xs text-open">The reduction says otherwise: set “the fixture gave way” there, so that the largest load becomes a lower bound.</p>
        <button class="button-main w-full" :disabled="busy"><Gavel class="size-4" aria-hidden="true" />{{ standing ? 'Judge again' : 'Record the judgement' }}</button>
        <p v-if="reopened.length > 0" role="status" class="rounded-md bg-caution-ground px-2 py-1 text-sm text-caution">{{ reopened.length === 1 ? 'A limit was changed or withdrawn' : `${reopened.length} limits were changed or withdrawn` }} since it was judged: {{ reopened.length === 1 ? 'its verdict is' : 'their verdicts are' }} open again. Judge again to settle it.</p>
        <p v-if="standing" class="text-xs text-quiet">Judged by {{ standing.by }} on {{ moment(standing.createdAt) }}, on reduction {{ standing.reductionId }}.</p>
        <p v-else-if="page.judgement" class="text-xs text-open">The results are newer than the last judgement.</p>
        <ProblemNote :problem="problem" />
        <div v-if="standing" class="flex gap-2 border-t border-line pt-3"><NuxtLink :to="`/tests/${page.test.id}/change`" class="button flex-1">What to change</NuxtLink><NuxtLink :to="`/reports/${page.test.id}`" class="button flex-1">Report</NuxtLink></div>
      </form>
      <section class="panel"><AttachmentStrip :id="page.test.id" entity="test" title="Photos and papers" /></section>
      </div>
    </div>
  </main>
</template>
