<script setup lang="ts">
import { PenLine } from '@lucide/vue'
import {
  coveredBy,
  decide,
  endsEarly,
  isCounted,
  LIMIT_LEVELS,
  type Answer,
  type Cause,
  type Evidence,
  type Result,
  type Validity,
} from '@hypomet/core'
import type { Specimen } from '~/types/api'
import {
  againstPrediction,
  CAUSE_WORDS,
  conformityWords,
  VALIDITY_WORDS,
  worstFirst,
} from '~/composables/judge/judgeWords'
import { madeOf, whyNull } from '~/composables/judge/uncertaintyWords'

const { page, store, units, outline } = useTest()
const { busy, problem, run } = useAction()
const person = usePerson()
const reductions = useReductionStore()
const reduction = computed(() => page.value.reductions[0] ?? null)
const last = page.value.judgement
const standing = computed(() =>
  page.value.judgement?.reductionId === reduction.value?.id ? page.value.judgement : null,
)
/** What ended it, as was said at the run or with the file. */
const said = page.value.runs.find(r => r.status === 'closed') ?? null
const SAID_CAUSE: Record<string, Cause> = { 'article broke': 'article', 'fixture gave way': 'fixture' }
const outcome = computed(() => String(reduction.value?.settings['outcome'] ?? ''))
const form = reactive<{
  validity: Validity
  cause: Cause
  place: string
  mode: string
  note: string
  answers: Record<string, Answer>
}>({
  validity: last?.validity ?? 'valid',
  cause:
    last?.cause ??
    ({ article: 'article', fixture: 'fixture' } as Record<string, Cause>)[outcome.value] ??
    SAID_CAUSE[said?.end ?? ''] ??
    'none',
  place: last?.place ?? said?.broke?.place ?? '',
  mode: last?.mode ?? said?.broke?.mode ?? '',
  note: last?.note ?? said?.broke?.note ?? '',
  answers: standing.value?.answers ?? {},
})
/** A no leaves remarks. */
watch(
  () => form.answers,
  answers => {
    if (form.validity === 'valid' && Object.values(answers).some(a => a?.says === 'no'))
      form.validity = 'valid-with-remarks'
  },
)
const { judged, unanswered } = useVerdicts(form)
const rails = computed(() => worstFirst(judged.value))
const levels: Record<string, string> = Object.fromEntries(LIMIT_LEVELS.map(l => [l.value, l.label.toLowerCase()]))

const evidence = shallowRef<Evidence | null>(null)
const others = shallowRef<Specimen[]>([])
onMounted(async () => {
  if (!reduction.value) return
  evidence.value = await store.evidence()
  others.value = (await reductions.specimens(page.value.test.id)).filter(s => s.id !== page.value.test.id)
})

/** What was decided on a limit that has changed since is open again. */
const reopened = computed(() => standing.value?.verdicts.filter(v => !v.stands) ?? [])
const predictionsFor = (quantity: string) => page.value.predictions.filter(p => p.quantity === quantity)
const beside = (quantity: string) => others.value.filter(o => o.results[quantity]?.value != null).slice(-4)
/** A test of this revision that says what this one left open. */
function settledBy(j: (typeof judged.value)[number]): Specimen | null {
  const of = (testId: number, result: Result | null, validity: Validity | null) => {
    const counted = isCounted(outline.value.results[j.limit.quantity])
    const { verdict } = result
      ? decide(result, j.limit.comparator, j.limit.value, page.value.campaign.rule, counted)
      : { verdict: 'undecided' as const }
    return { testId, result, verdict, validity }
  }
  const alike = others.value.filter(o => o.judged && o.revision === page.value.revision.label)
  const by = coveredBy(
    of(page.value.test.id, j.result, form.validity),
    alike.map(o => of(o.id, o.results[j.limit.quantity] ?? null, o.invalid ? 'invalid' : 'valid')),
  )
  return alike.find(o => o.id === by) ?? null
}
const counts = computed(() =>
  (['fail', 'undecided', 'pass'] as const)
    .map(v => ({ v, n: judged.value.filter(j => j.decision.verdict === v).length }))
    .filter(c => c.n > 0),
)
/** Results that a cause outside the article turns into lower bounds. */
const bounded = computed(() =>
  endsEarly(form.cause)
    ? Object.entries(reduction.value?.output.results ?? {})
        .filter(([key, r]) => outline.value.results[key]?.atEnd && r.bound !== 'atLeast')
        .map(([key]) => outline.value.results[key]!.label)
    : [],
)

const main = computed(() => page.value.datasets.find(d => d.joinsId === null) ?? null)
/** What the record and its reduction warn of: where something was read wrongly, it is mended here. */
const warned = computed(() => [
  ...new Set([...(main.value?.warnings ?? []), ...(reduction.value?.output.warnings ?? [])].map(w => w.message)),
])

const judge = () => run(() => store.judge(form))
</script>

<template>
  <main>
    <EmptyState
      v-if="!reduction"
      title="Nothing to judge yet"
      text="A judgement stands on a kept reduction."
      action="To the reduction"
      :to="`/tests/${page.test.id}/reduce`"
    />
    <div v-else class="grid grid-cols-[minmax(0,1fr)_23rem] items-start gap-3">
      <div class="space-y-3">
        <p v-if="judged.length > 0" class="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
          <span v-for="c in counts" :key="c.v" class="flex items-center gap-1.5"
            ><VerdictMark :verdict="c.v" />{{ c.n }}</span
          ><span class="text-quiet"
            >worst first ·
            {{
              page.campaign.rule === 'guarded'
                ? 'guarded acceptance: the value must keep its limit with all of its expanded uncertainty'
                : 'simple acceptance: the value alone decides'
            }}
            · not a clearance for use</span
          >
        </p>
        <EmptyState
          v-else-if="page.limits.length === 0"
          title="No limits to judge against"
          text="Limits belong to the article; add them on the campaign page."
          action="To the campaign"
          :to="`/campaigns/${page.campaign.slug}`"
        />
        <article v-for="j in rails" :key="j.limit.id" class="panel" :data-limit="j.limit.name">
          <header class="mb-1 flex items-baseline justify-between gap-4">
            <div>
              <p class="text-base font-semibold">{{ j.limit.name }}</p>
              <p class="text-xs text-quiet">
                {{ units.limit(j.limit, j.kind) }} · {{ levels[j.limit.level]
                }}{{ j.limit.source ? ` · ${j.limit.source}` : '' }}
              </p>
            </div>
            <div class="text-right">
              <p class="text-xl font-bold">{{ units.result(j.result ?? undefined, j.kind) }}</p>
              <p tabindex="0" class="text-xs text-quiet" :data-hint="j.otherMargin">
                {{ j.margin }}<template v-if="j.otherMargin"> ({{ j.otherMargin }})</template>
              </p>
            </div>
          </header>
          <LimitRail
            :origin="railOrigin(j.kind)"
            :label="j.limit.name"
            :limit="j.limit.value"
            :comparator="j.limit.comparator"
            :result="j.result"
            :verdict="j.decision.verdict"
            :predicted="predictionsFor(j.limit.quantity).find(p => !p.isOfAnother) ?? null"
            :show="v => units.show(v, j.kind)"
          />
          <div class="mt-1.5 flex items-start justify-between gap-4 text-sm">
            <p class="min-w-0">
              <VerdictMark :verdict="j.decision.verdict" class="mr-2" /><span class="text-quiet"
                >{{ j.decision.reason }} {{ conformityWords(j.decision.conformity) }}</span
              >
              <span v-if="j.result" class="block text-xs text-quiet" data-made-of>{{
                j.result.value === null ? whyNull(reduction.output) : j.result.u === undefined ? '' : madeOf(j.result)
              }}</span>
            </p>
            <ul class="w-80 shrink-0 text-right text-xs">
              <li v-for="p in predictionsFor(j.limit.quantity)" :key="p.id">
                <span class="text-predicted"
                  >⋯ {{ p.source }}:
                  {{ units.result({ value: p.value, bound: p.bound, u: p.u, k: p.k }, j.kind) }}</span
                >{{ ' ' }}
                <span class="text-quiet">{{
                  p.isOfAnother ? `speaks of “${p.config}”: not held against this` : againstPrediction(j.result, p)
                }}</span>
              </li>
            </ul>
          </div>
          <WhatDecides
            v-if="j.decision.verdict === 'undecided' && !settledBy(j)"
            :judged="j"
            :validity="form.validity"
          />
          <p v-if="settledBy(j)" class="mt-1 text-sm" data-settled>
            Together with
            <NuxtLink :to="`/tests/${settledBy(j)!.id}/judge`">{{ settledBy(j)!.title }}</NuxtLink>, of the same
            revision, it stands as <strong>{{ units.result(settledBy(j)!.results[j.limit.quantity], j.kind) }}</strong>.
          </p>
          <p v-if="beside(j.limit.quantity).length > 0" class="mt-1 border-t border-line/60 pt-1 text-xs text-quiet">
            Beside it:
            <template v-for="(o, i) in beside(j.limit.quantity)" :key="o.id"
              >{{ i > 0 ? ' · ' : '' }}<NuxtLink :to="`/tests/${o.id}/judge`">{{ o.revision }}</NuxtLink>
              {{ units.result(o.results[j.limit.quantity], j.kind) }}</template
            >
            ·
            <NuxtLink :to="`/compare?tests=${[page.test.id, ...beside(j.limit.quantity).map(o => o.id)].join(',')}`"
              >compare</NuxtLink
            >
          </p>
        </article>
        <p v-if="unanswered.length > 0" class="text-sm text-quiet">
          Not answered by this test: {{ unanswered.map(l => l.name).join(', ') }}.
        </p>
        <section v-if="main" class="panel" aria-label="What was read">
          <h2>What was read</h2>
          <p v-for="w in warned" :key="w" class="text-xs text-open">{{ w }}</p>
          <ChannelsRead :key="main.id" :test-id="page.test.id" @named="store.refresh()" />
        </section>
        <EventPins />
      </div>
      <div class="space-y-3">
        <form class="panel space-y-3" @submit.prevent="judge">
          <ValidityQuestions v-model="form.answers" :evidence="evidence" />
          <fieldset class="border-t border-line pt-2">
            <legend class="sr-only">Does the test count?</legend>
            <p class="label">Does the test count?</p>
            <div class="flex flex-wrap gap-x-3">
              <label v-for="v in VALIDITY_WORDS" :key="v.value" class="flex items-center gap-1.5 py-0.5 text-sm"
                ><input v-model="form.validity" type="radio" name="validity" :value="v.value" />{{ v.label }}</label
              >
            </div>
          </fieldset>
          <div class="grid grid-cols-2 gap-2">
            <label class="col-span-2 block"
              ><span class="label">What ended it</span
              ><select v-model="form.cause" class="field">
                <option v-for="c in CAUSE_WORDS" :key="c.value" :value="c.value">{{ c.label }}</option>
              </select></label
            >
            <BreakFields v-model:mode="form.mode" v-model:place="form.place" class="col-span-2" />
          </div>
          <PlacesForetold :seen="form" />
          <p v-if="bounded.length > 0" class="rounded-md bg-sunk px-2 py-1 text-xs" data-bounded>
            {{ bounded.join(', ') }}: lower {{ bounded.length === 1 ? 'bound' : 'bounds' }} from here on, in verdicts,
            margins, statistics, charts and advice: the article could have gone on.
          </p>
          <label class="block"
            ><span class="label">What was seen</span><textarea v-model="form.note" class="field" rows="2" />
          </label>
          <button class="button-main w-full" :disabled="busy || person === ''">
            <PenLine class="size-4" aria-hidden="true" />{{
              person === '' ? 'Say who you are to sign' : `Sign as ${person}`
            }}
          </button>
          <ul
            v-if="reopened.length > 0"
            role="status"
            class="rounded-md bg-caution-ground px-2 py-1 text-sm text-caution"
          >
            <li v-for="v in reopened" :key="v.limitId">
              {{ page.limits.find(l => l.id === v.limitId)?.name ?? 'A limit' }} is open again: {{ v.why }}.
            </li>
          </ul>
          <p v-if="standing" class="text-xs text-quiet">
            Signed by {{ standing.by }} on {{ moment(standing.createdAt) }}, on reduction {{ standing.reductionId }}.
          </p>
          <p
            v-else-if="page.judgement"
            role="status"
            class="rounded-md bg-caution-ground px-2 py-1 text-sm text-caution"
          >
            Open again: {{ page.judgement.superseded ?? 'the results are newer than the last judgement.' }} Signed
            before by {{ page.judgement.by }} on {{ moment(page.judgement.createdAt) }}.
          </p>
          <ProblemNote :problem="problem" />
          <div v-if="standing" class="flex gap-2 border-t border-line pt-3">
            <NuxtLink :to="`/tests/${page.test.id}/change`" class="button flex-1">What to change</NuxtLink
            ><NuxtLink :to="`/reports/${page.test.id}`" class="button flex-1">Report</NuxtLink>
          </div>
        </form>
        <section class="panel"><AttachmentStrip :id="page.test.id" entity="test" title="Photos and papers" /></section>
      </div>
    </div>
  </main>
</template>
