<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { families } from '@hypomet/core'
import { axesOf, commonFigures, curvesOf } from '~/composables/compare/comparedCurves'

/** Any set of tests beside one another; the address says which. */
const route = useRoute()
const router = useRouter()
const api = useApi()
const ids = computed(() =>
  String(route.query['tests'] ?? '')
    .split(',')
    .map(Number)
    .filter(n => Number.isInteger(n) && n > 0),
)
const { data, error } = await useAsyncData(
  () => `compare-${ids.value.join()}`,
  () => api.get('/api/compare', { tests: ids.value.join(',') || undefined }),
  { watch: [ids] },
)
useTrail().value = [{ name: 'Compare' }]
useHead({ title: 'Compare · Hypomet' })
const tests = computed(() => data.value?.tests ?? [])
const choices = computed(() => data.value?.choices ?? [])
const to = (list: number[]) =>
  router.replace({ query: { ...route.query, tests: list.length > 0 ? list.join(',') : undefined } })
/** “12”, or all tests of a revision: “3,4,5”. */
const add = (list: string) => list !== '' && to([...new Set([...ids.value, ...list.split(',').map(Number)])])
const revisionsOf = (article: string) =>
  (all =>
    [...new Set(all.map(c => c.revision))].map(label => ({
      label,
      ids: all.filter(c => c.revision === label).map(c => c.id),
    })))(offered.value.filter(o => o.article === article)).filter(r => r.ids.length > 1)
const remove = (id: number) => to(ids.value.filter(x => x !== id))
/** Of the same kind first: others have nothing in common with it. */
const offered = computed(() =>
  choices.value.filter(
    c => !ids.value.includes(c.id) && (tests.value.length === 0 || c.family === tests.value[0]!.family),
  ),
)
const articles = computed(() => [...new Set(offered.value.map(c => c.article))])
const system = computed(() => tests.value[0]?.system ?? 'metric')
const { prefer } = useUnits(system)
useNumbersOf(() => (t => t && { id: t.campaignId, numbers: t.numbers, units: t.units })(tests.value[0]))
const baseTest = ref<number | null>(null)
const baseline = computed(() => tests.value.find(t => t.id === baseTest.value)?.id ?? tests.value[0]?.id ?? 0)

const figures = computed(() => commonFigures(tests.value))
const chosenFigure = ref<string | null>(null)
const figure = computed(() =>
  chosenFigure.value && figures.value.includes(chosenFigure.value) ? chosenFigure.value : (figures.value[0] ?? ''),
)
const figureTitle = (name: string) => families[tests.value[0]?.family ?? '']?.figures[name]?.title ?? name
const axes = computed(() => axesOf(tests.value, figure.value))
const all = computed(() => curvesOf(tests.value, figure.value))
/** A test that brings many curves – gauges, configurations – shows its first few until somebody chooses. */
const MOST_DRAWN = 8
const hiddenByHand = ref<string[] | null>(null)
const hidden = computed(() => hiddenByHand.value ?? all.value.slice(MOST_DRAWN).map(c => c.key))
const curves = computed(() => all.value.filter(c => !hidden.value.includes(c.key)))
const toggle = (key: string) => {
  hiddenByHand.value = hidden.value.includes(key) ? hidden.value.filter(k => k !== key) : [...hidden.value, key]
}
watch(figure, () => {
  hiddenByHand.value = null
})
const baseCurve = ref<string | null>(null)
const baseKey = computed(
  () =>
    curves.value.find(c => c.key === baseCurve.value)?.key ??
    curves.value.find(c => c.testId === baseline.value)?.key ??
    curves.value[0]?.key ??
    '',
)
const predicted = computed(() =>
  tests.value.flatMap(t =>
    t.predictions.flatMap(p =>
      p.curve && p.quantity === figure.value
        ? [{ name: `${t.revision}: ${p.source}`, x: p.curve.x, y: p.curve.y }]
        : [],
    ),
  ),
)
const redundancy = computed(() =>
  tests.value.filter(
    t => t.redundancy.against.length > 0 || t.redundancy.for.some(f => f !== 'There were no redundant channels.'),
  ),
)
const ofArticles = computed(() => [...new Map(tests.value.map(t => [t.articleId, t.article]))])
const CAUSES: Record<string, string> = {
  fixture: 'fixture ended it',
  instrumentation: 'instrumentation ended it',
  procedure: 'procedure ended it',
}
</script>

<template>
  <main class="space-y-3 p-3">
    <h1>Compare</h1>
    <p v-if="error" role="alert" class="text-fail">
      These tests could not be read: the address names them by their numbers.
    </p>
    <section class="panel flex flex-wrap items-center gap-2" data-chosen>
      <span
        v-for="t in tests"
        :key="t.id"
        class="flex items-center gap-1.5 rounded-md border border-line bg-sunk px-2 py-0.5 text-sm"
        ><span class="font-semibold">{{ t.article }} {{ t.revision }}</span
        ><span class="text-quiet">{{ t.title }}</span
        ><span v-if="t.validity === 'invalid'" class="text-open">shows nothing</span
        ><span v-else-if="t.cause && CAUSES[t.cause]" class="text-open">{{ CAUSES[t.cause] }}</span
        ><button
          type="button"
          class="text-quiet hover:text-ink"
          :aria-label="`Take out ${t.article} ${t.revision} ${t.title}`"
          @click="remove(t.id)"
        >
          <X class="size-3.5" aria-hidden="true" /></button
      ></span>
      <label class="flex items-center gap-1 text-sm"
        ><Plus class="size-4 text-quiet" aria-hidden="true" /><span class="sr-only">Add a test</span
        ><select
          class="field w-64"
          value=""
          aria-label="Add a test"
          @change="
            add(($event.target as HTMLSelectElement).value)
            ;($event.target as HTMLSelectElement).value = ''
          "
        >
          <option value="">Add a test …</option>
          <optgroup v-for="a in articles" :key="a" :label="a">
            <option v-for="r in revisionsOf(a)" :key="r.label" :value="r.ids.join(',')">
              all {{ r.ids.length }} of {{ r.label }}
            </option>
            <option v-for="c in offered.filter(o => o.article === a)" :key="c.id" :value="c.id">
              {{ c.revision }} · {{ c.title }}
            </option>
          </optgroup>
        </select></label
      >
      <label v-if="tests.length > 1" class="ml-auto flex items-center gap-1.5 text-sm text-quiet"
        >Against<select
          class="field w-auto"
          :value="baseline"
          aria-label="Against"
          @change="baseTest = Number(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="t in tests" :key="t.id" :value="t.id">{{ t.revision }} · {{ t.title }}</option>
        </select></label
      >
    </section>
    <EmptyState
      v-if="tests.length === 0"
      title="No tests selected"
      text="Add two tests or more of one kind: curves over one another and point by point, results against
        their uncertainty, predictions against what was measured, and explanations ranked."
    />
    <template v-else>
      <div v-if="all.length > 0" class="flex flex-wrap items-center gap-3 text-sm text-quiet">
        <label class="flex items-center gap-1.5"
          >Curve<select
            class="field w-auto py-0.5"
            :value="figure"
            aria-label="Curve"
            @change="chosenFigure = ($event.target as HTMLSelectElement).value"
          >
            <option v-for="f in figures" :key="f" :value="f">{{ figureTitle(f) }}</option>
          </select></label
        >
        <label v-if="curves.length > 1" class="flex items-center gap-1.5"
          >less<select
            class="field w-auto py-0.5"
            :value="baseKey"
            aria-label="Less the curve"
            @change="baseCurve = ($event.target as HTMLSelectElement).value"
          >
            <option v-for="c in curves" :key="c.key" :value="c.key">{{ c.name }}</option>
          </select></label
        >
        <label v-for="c in all.length > tests.length ? all : []" :key="c.key" class="flex items-center gap-1"
          ><input type="checkbox" :checked="!hidden.includes(c.key)" @change="toggle(c.key)" />{{ c.name }}</label
        >
      </div>
      <ClientOnly>
        <CompareCurves
          v-if="axes && curves.length > 0"
          :curves="curves"
          :baseline="baseKey"
          :axes="axes"
          :system="system"
          :prefer="prefer"
          :name="figure"
        />
        <CompareResults :tests="tests" :baseline="baseline" :system="system" />
        <ComparePredictions :tests="tests" :system="system" />
        <section v-if="redundancy.length > 0" class="panel">
          <h2 class="mb-1">Redundant channels</h2>
          <ul class="text-sm">
            <li v-for="t in redundancy" :key="t.id">
              <strong>{{ t.revision }} · {{ t.title }}</strong
              >: <span v-for="l in t.redundancy.against" :key="l" class="text-open">{{ l }} </span><span
                v-for="l in t.redundancy.for"
                :key="l"
                class="text-quiet"
                >{{ l }}
              </span>
            </li>
          </ul>
        </section>
        <ExplainData
          v-if="axes && curves.length > 0"
          :curves="curves"
          :axes="axes"
          :predicted="predicted"
          :prefer="prefer"
        />
      </ClientOnly>
      <p class="text-sm text-quiet">
        Effect of factors over the history of revisions:
        <template v-for="([id, name], i) in ofArticles" :key="id"
          >{{ i > 0 ? ', ' : '' }}<NuxtLink :to="`/articles/${id}`">{{ name }}</NuxtLink></template
        >.
      </p>
    </template>
  </main>
</template>
