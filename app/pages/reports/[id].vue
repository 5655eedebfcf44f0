<script setup lang="ts">
import { QUESTIONS } from '@hypomet/core'
import { Printer } from '@lucide/vue'
import type { Figure, Kind } from '@hypomet/core'

const id = Number(useRoute().params.id)
const store = useTestStore()
const { error } = await useAsyncData(`report-${id}`, async () => (await store.load(id), true))
if (error.value || !store.page) throw createError({ statusCode: 404, statusMessage: 'There is no such test.' })
const { page, predictedCurves, units, resultLabel, resultKind, family } = useTest()
const { judged, unanswered, results } = useVerdicts()
/** Questions of validity that were answered with no, and what that means. */
const remarks = computed(() =>
  QUESTIONS.flatMap(q =>
    (a => (a?.says === 'no' ? [`${q.text} No: ${a.note}`] : []))(page.value.judgement?.answers[q.key]),
  ),
)
useTrail().value = [
  { name: page.value.campaign.title, to: `/campaigns/${page.value.campaign.slug}` },
  { name: `${page.value.article.name} ${page.value.revision.label}`, to: `/tests/${id}/judge` },
  { name: 'Report' },
]
useHead({ title: `Report · ${page.value.article.name} ${page.value.revision.label} · Hypomet` })
const forced = useForcedTheme()
onMounted(() => {
  forced.value = 'light'
})
onBeforeUnmount(() => {
  forced.value = null
})

const { data: trail } = await useFetch('/api/proofs/head')
const reduction = computed(() => page.value.reductions[0] ?? null)
const run = computed(() => page.value.runs[0] ?? null)
const data = computed(() => page.value.datasets.find(d => d.id === reduction.value?.datasetId) ?? null)
const figures = useKeptFigures(() => reduction.value?.id ?? null)
const name = computed(() => Object.keys(figures.value)[0] ?? '')
const figure = computed<Figure | null>(() => {
  const f = figures.value[name.value]
  return f ? { ...f, handles: [], series: [...predictedCurves(name.value), ...f.series] } : null
})
const kindOf = (role: string): Kind | null => page.value.view?.channels.find(c => c.role === role)?.kind ?? null
const channelLabel = (role: string) => page.value.view?.channels.find(c => c.role === role)?.label ?? role
const causes: Record<string, string> = {
  none: 'no failure',
  article: 'the article',
  fixture: 'the fixture',
  instrumentation: 'instrumentation',
  procedure: 'procedure',
  manufacture: 'manufacture',
}
const print = () => window.print()
</script>

<template>
  <main class="mx-auto w-full max-w-4xl space-y-4 p-4 print:max-w-none print:p-0">
    <div class="no-print flex justify-end gap-2">
      <a v-if="reduction" class="button" :href="`/api/tests/${id}/results?format=csv`" download>Results as CSV</a>
      <a v-if="reduction" class="button" :href="`/api/tests/${id}/results?format=json`" download>Results as JSON</a>
      <button type="button" class="button-main" @click="print">
        <Printer class="size-4" aria-hidden="true" />Print
      </button>
    </div>
    <header class="border-b-2 border-ink pb-2">
      <p class="text-sm text-quiet">{{ page.campaign.title }} · {{ family.title }}</p>
      <h1>{{ page.article.name }}, revision {{ page.revision.label }}: {{ page.test.title }}</h1>
      <p class="text-sm text-quiet">
        {{ page.article.note
        }}<template v-if="page.revision.changed">
          Changed from the revision before: {{ page.revision.changed }}.</template
        >
      </p>
    </header>
    <EmptyState
      v-if="!reduction"
      title="Nothing to report yet"
      text="A report stands on a kept reduction."
      action="To the reduction"
      :to="`/tests/${id}/reduce`"
    />
    <template v-else>
      <section>
        <h2 class="mb-1">Verdicts ({{ page.campaign.rule }} decision)</h2>
        <table class="data">
          <thead>
            <tr>
              <th>Limit</th>
              <th class="number">Required</th>
              <th class="number">Result</th>
              <th class="number">Margin</th>
              <th class="w-56">On the rail</th>
              <th>Verdict</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="j in judged" :key="j.limit.id">
              <td class="font-medium">{{ j.limit.name }}</td>
              <td class="number">{{ units.limit(j.limit, j.kind) }}</td>
              <td class="number">{{ units.result(j.result ?? undefined, j.kind) }}</td>
              <td class="number">{{ j.margin }}</td>
              <td>
                <LimitRail
                  :origin="railOrigin(j.kind)"
                  :label="j.limit.name"
                  :limit="j.limit.value"
                  :comparator="j.limit.comparator"
                  :result="j.result"
                  :verdict="j.decision.verdict"
                  :show="v => units.show(v, j.kind)"
                />
              </td>
              <td><VerdictMark :verdict="j.decision.verdict" /></td>
            </tr>
          </tbody>
        </table>
        <p v-if="unanswered.length > 0" class="mt-1 text-sm text-quiet">
          Not answered by this test: {{ unanswered.map(l => l.name).join(', ') }}.
        </p>
        <ul class="mt-1 text-sm text-quiet">
          <li v-for="j in judged.filter(j => j.decision.verdict !== 'pass')" :key="j.limit.id">
            {{ j.limit.name }}: {{ j.decision.reason }}
          </li>
        </ul>
        <p v-if="page.judgement" class="mt-1 text-sm">
          Validity: <strong>{{ page.judgement.validity.replaceAll('-', ' ') }}</strong>. Ended by:
          <strong>{{ causes[page.judgement.cause] }}</strong><template v-if="page.judgement.place"
            >, {{ page.judgement.place }}</template
          ><template v-if="page.judgement.mode"> ({{ page.judgement.mode }})</template>. {{ page.judgement.note }}
          <span class="text-quiet">Signed by {{ page.judgement.by }}, {{ day(page.judgement.createdAt) }}.</span>
        </p>
        <ul v-if="remarks.length > 0" class="text-sm">
          <li v-for="r in remarks" :key="r">{{ r }}</li>
        </ul>
        <p v-if="page.decisions[0]?.label" class="mt-1 text-sm">
          Decided on these results: revision <strong>{{ page.decisions[0].label }}</strong>,
          {{ page.decisions[0].chosen.title.toLowerCase()
          }}{{ page.decisions[0].reasons ? ` – ${page.decisions[0].reasons}` : '' }} ({{ page.decisions[0].by }}).
        </p>
        <p v-if="!page.judgement" class="mt-1 text-sm text-open">
          Not judged yet: the verdicts above are by the numbers alone, nobody has said whether the test counts.
        </p>
      </section>
      <section class="break-inside-avoid">
        <h2 class="mb-1">{{ family.figures[name]?.title }}</h2>
        <FieldMap v-if="figure?.field" :figure="figure" :prefer="units.prefer.value" />
        <FigureChart
          v-else-if="figure"
          :figure="figure"
          :prefer="units.prefer.value"
          :name="`report-${id}`"
          height="300px"
        />
      </section>
      <section class="grid grid-cols-2 gap-4">
        <div>
          <h2 class="mb-1">Results</h2>
          <ReducedResults
            :family="family"
            :output="{ ...reduction.output, results }"
            :kept="null"
            :system="page.campaign.system"
            is-open
          />
          <p class="mt-1 text-xs text-quiet">± is the expanded uncertainty, 95.45 %. ≥ marks a lower bound.</p>
          <p v-for="w in reduction.output.warnings" :key="w.code" class="text-xs text-open">{{ w.message }}</p>
        </div>
        <div>
          <h2 class="mb-1">
            Prediction, locked {{ page.predictions[0]?.lockedAt ? day(page.predictions[0].lockedAt) : 'not yet' }}
          </h2>
          <table class="data">
            <tbody>
              <tr v-for="p in page.predictions" :key="p.id">
                <td>
                  {{ resultLabel(p.quantity)
                  }}<span class="block text-xs text-quiet">{{ p.source }}{{ p.config ? `, of ${p.config}` : '' }}</span>
                </td>
                <td class="number text-predicted">
                  {{ units.result({ value: p.value, bound: p.bound, u: p.u, k: p.k }, resultKind(p.quantity)) }}
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <ResultTables
        :tables="reduction.output.tables"
        :system="page.campaign.system"
        :kind-of="kindOf"
        :label="channelLabel"
      />
      <section class="break-inside-avoid text-xs text-quiet">
        <h2 class="mb-1">Where it comes from</h2>
        <p>
          Readings {{ data?.name }} ({{ data?.rows }} rows, SHA-256 <code>{{ reduction.inputSha256 }}</code>),
          {{ run?.source === 'rig' ? 'simulated rig' : 'logger file' }}, {{ run?.end }}. Method {{ reduction.family }}
          {{ reduction.methodVersion }}, Hypomet {{ reduction.softwareVersion }}, kept by {{ reduction.by }} on
          {{ moment(reduction.createdAt) }}; output SHA-256 <code>{{ reduction.outputSha256.slice(0, 16) }}</code>.
        </p>
        <p v-if="trail?.head" class="mt-1" data-head>
          On {{ moment(trail.head.at) }} the audit trail had {{ trail.head.count.toLocaleString('en') }} entries and
          ended with <code>{{ trail.head.hash.slice(0, 32) }}</code>, signed
          <code>{{ trail.head.mac.slice(0, 16) }}</code>.
        </p>
        <p class="mt-1">
          Results describe the test that was made; they are no clearance to use the article. Follow your site’s rules,
          local codes and licensed practice.
        </p>
      </section>
    </template>
  </main>
</template>
