<script setup lang="ts">
import { contradicts, PREDICTION_METHODS, recordOf, type PredictionRecord } from '@hypomet/core'
import { againstPrediction } from '~/composables/judge/judgeWords'
import type { Learning } from '~/types/api'

/** What the campaign's tests said of its predictions, its decisions and its lessons; nobody is named. */
const slug = String(useRoute().params['slug'])
const api = useApi()
const { data, error } = await useAsyncData(`learning-${slug}`, () => api.get(`/api/campaigns/${slug}/learning`))
if (error.value) throw createError({ statusCode: 404, statusMessage: 'There is no such campaign.' })
const page = computed(() => data.value!)
useTrail().value = [{ name: page.value.campaign.title, to: `/campaigns/${slug}` }, { name: 'What we learned' }]
useHead({ title: 'What we learned · Hypomet' })
useNumbersOf(() => page.value?.campaign)
const units = useUnits(() => page.value.campaign.system)
const methodLabel = (m: string) => PREDICTION_METHODS.find(p => p.value === m)?.label ?? 'The plan’s own calculation'
const exact = computed(() => page.value.predictions.filter(p => p.isExact))
const by = (group: (p: Learning['predictions'][number]) => string): PredictionRecord[] =>
  recordOf(
    page.value.predictions.flatMap(p => {
      const [predicted, band] = [p.predicted.value, p.predicted.u * p.predicted.k]
      const isContradicted = !p.isExact && contradicts(p.measured, predicted, band)
      return p.isExact || isContradicted
        ? [{ group: group(p), predicted, band, measured: p.measured.value!, isContradicted }]
        : []
    }),
  )
const tables = computed(() => [
  { title: 'By how they were made', rows: by(p => methodLabel(p.method)) },
  { title: 'By source', rows: by(p => p.source) },
  { title: 'By kind of test', rows: by(p => p.family) },
])
const worst = computed(() =>
  exact.value
    .toSorted(
      (a, b) =>
        Math.abs(Math.log(b.measured.value! / b.predicted.value)) -
        Math.abs(Math.log(a.measured.value! / a.predicted.value)),
    )
    .slice(0, 6),
)
const percent = (v: number | null, signed = false) =>
  v === null || Number.isNaN(v) ? '–' : `${signed ? (v >= 0 ? '+' : '−') : ''}${Math.abs(100 * v).toFixed(1)} %`
const soundWords = (n: number, cost: number) =>
  `${n} that took it ended by the article or not at all (${moneyText(cost, page.value!.campaign.currency)} of tests).`
</script>

<template>
  <div>
    <CampaignNav :slug="slug" current="learning" />
    <main class="space-y-3 p-3">
      <h1>What we learned</h1>
      <section class="panel" data-foretold>
        <h2>How good were the predictions?</h2>
        <p class="mb-2 text-sm text-quiet">
          {{ exact.length }} values were locked before their tests and then measured{{
            page.predictions.length > exact.length
              ? `; ${page.predictions.length - exact.length} more met only a bound and are not counted`
              : ''
          }}. Of measured over predicted, by groups, never by people.
        </p>
        <EmptyState
          v-if="exact.length === 0"
          title="Nothing to learn from yet"
          text="Write predictions down before the first sample: from then on they stand beside what is measured."
          action="To the predictions"
          :to="`/campaigns/${slug}/prediction`"
        />
        <div v-else class="grid gap-4 xl:grid-cols-2">
          <div v-for="t in tables" :key="t.title" class="min-w-0">
            <h3 class="font-semibold">{{ t.title }}</h3>
            <div class="max-h-72 overflow-auto" tabindex="0" role="region" :aria-label="t.title">
              <table class="data">
                <thead>
                  <tr>
                    <th>{{ t.title.replace('By ', '') }}</th>
                    <th class="number">n</th>
                    <th class="number">Off by</th>
                    <th class="number">Scatter</th>
                    <th class="number">Inside its band</th>
                    <th>What to make of it</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="r in t.rows" :key="r.group">
                    <td>{{ r.group }}</td>
                    <td class="number">{{ r.n }}</td>
                    <td class="number whitespace-nowrap">{{ percent(r.bias === null ? null : r.bias - 1, true) }}</td>
                    <td class="number whitespace-nowrap">{{ percent(r.scatter) }}</td>
                    <td class="number">{{ r.banded === 0 ? 'none claimed' : `${r.inside} of ${r.banded}` }}</td>
                    <td class="text-xs text-quiet">{{ r.words }}</td>
                  </tr>
                </tbody>
              </table>
            </div>
          </div>
          <div v-if="page.places.length > 0" class="min-w-0" data-places>
            <h3 class="font-semibold">Where it fails</h3>
            <ul class="text-sm">
              <li v-for="p in page.places" :key="p.by">
                {{ p.by }}: named the place in {{ p.right }} of {{ p.of }} that failed.
              </li>
            </ul>
          </div>
          <div class="min-w-0">
            <h3 class="font-semibold">Largest error</h3>
            <table class="data">
              <thead>
                <tr>
                  <th>Test</th>
                  <th>Predicted</th>
                  <th class="number">Measured</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="p in worst" :key="p.id">
                  <td>
                    <NuxtLink :to="`/tests/${p.testId}/judge`">{{ p.test }}</NuxtLink><span
                      class="block text-xs text-quiet"
                      >{{ p.quantity }}</span
                    >
                  </td>
                  <td class="text-predicted">
                    ⋯ {{ units.result(p.predicted, p.kind)
                    }}<span class="block text-xs text-quiet">{{ p.source }}</span>
                  </td>
                  <td class="number">
                    {{ units.result(p.measured, p.kind)
                    }}<span class="block text-xs text-quiet">{{ againstPrediction(p.measured, p.predicted) }}</span>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
        </div>
      </section>
      <section class="panel" data-followed>
        <h2 class="mb-1">Advice that was followed, and what it did</h2>
        <p v-if="page.decisions.length === 0" class="text-sm text-quiet">
          No change was decided from its results yet: the Change stage of a judged test proposes some.
        </p>
        <article v-for="d in page.decisions" :key="d.id" class="border-t border-line/60 py-1.5">
          <p class="text-sm">
            <NuxtLink :to="`/tests/${d.testId}/change`"
              ><strong>{{ d.article }} {{ d.from }} → {{ d.to ?? 'taken back' }}</strong></NuxtLink
            >: {{ d.title }}{{ d.reasons ? `, “${d.reasons}”` : '' }}
            <span v-if="d.afterId === null" class="text-quiet">· not tested yet</span>
          </p>
          <table v-if="d.limits.length > 0" class="data">
            <tbody>
              <tr v-for="l in d.limits" :key="l.id">
                <td>{{ l.name }}</td>
                <td>was <VerdictMark v-if="l.before" :verdict="l.before" /><span v-else>–</span></td>
                <td class="number text-predicted">⋯ {{ units.result(l.predicted, l.kind) }}</td>
                <td class="number">{{ units.result(l.measured ?? undefined, l.kind) }}</td>
                <td>
                  <VerdictMark v-if="l.after" :verdict="l.after" /><span class="text-xs text-quiet">{{
                    l.predicted.value !== null
                      ? againstPrediction(l.measured, {
                          value: l.predicted.value,
                          u: l.predicted.u ?? 0,
                          k: l.predicted.k ?? 2,
                          bound: l.predicted.bound,
                        })
                      : ''
                  }}</span>
                </td>
              </tr>
            </tbody>
          </table>
        </article>
      </section>
      <section class="panel" data-lessons>
        <h2 class="mb-1">Lessons that fired, and what they saved</h2>
        <p v-if="page.lessons.length === 0" class="text-sm text-quiet">No lesson fired on a plan of this campaign.</p>
        <table v-else class="data">
          <thead>
            <tr>
              <th>Lesson</th>
              <th class="number">Fired</th>
              <th class="number">Applied</th>
              <th class="number">Did not apply</th>
              <th class="number">Risk accepted</th>
              <th class="number">Open</th>
              <th>What became of the tests</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in page.lessons" :key="l.id">
              <td>
                <NuxtLink :to="`/lessons/${l.id}`">{{ l.title }}</NuxtLink>
              </td>
              <td class="number">{{ l.fired }}</td>
              <td class="number">{{ l.applied }}</td>
              <td class="number">{{ l.doesNotApply }}</td>
              <td class="number">{{ l.riskAccepted }}</td>
              <td class="number">{{ l.unanswered }}</td>
              <td class="text-xs">
                {{ l.soundAfter > 0 ? soundWords(l.soundAfter, l.guarded) : '' }}
                {{ l.spoiltAfter > 0 ? `${l.spoiltAfter} were spoilt all the same.` : '' }}
                <span v-if="l.spoiltWithout > 0" class="text-open"
                  >{{ l.spoiltWithout }} that did not take it {{ l.spoiltWithout === 1 ? 'was' : 'were' }} spoilt.</span
                >
              </td>
            </tr>
          </tbody>
        </table>
      </section>
    </main>
  </div>
</template>
