<script setup lang="ts">
import { Check, Copy, Wand2 } from '@lucide/vue'
import {
  formOf,
  planWithFacts,
  type FollowUp as Carried,
  type Figure,
  type DeclaredOwn,
  type Kind,
  type MethodOutput,
} from '@hypomet/core'
import { followUpsFrom, isSame } from '~/composables/reduce/reduceSettings'
import { useReduceDraft } from '~/composables/reduce/useReduceDraft'

/** From the record to the results: the chain at the left, the figure beside it, old beside new, and its twins. */
const { page, own, predictedCurves, store, units, family, resultLabel } = useTest()
const { busy, problem, run } = useAction()
const reductions = useReductionStore()
const kept = computed(() => page.value.reductions[0] ?? null)
const keptFigures = useKeptFigures(() => kept.value?.id ?? null)
const hasData = computed(() => page.value.datasets.length > 0)
const planned = computed(
  () => planWithFacts(page.value.test.family, page.value.test.plan, page.value.revision.facts).plan,
)
const reducer = useReducer({
  id: page.value.test.id,
  family: page.value.test.family,
  plan: () => planned.value,
  view: () => page.value.view,
  facts: () => page.value.revision.facts,
})
const writing = useReduceDraft(page.value.test.id, () => kept.value)
const { settings: draft, proposed, open } = writing
const output = computed<MethodOutput | null>(
  () => reducer.reduced.value?.output ?? (reducer.problem.value ? null : (kept.value?.output ?? null)),
)
const figures = computed<Record<string, Figure>>(() => ({
  ...keptFigures.value,
  ...(reducer.reduced.value?.figures ?? {}),
}))

/** What is wrong, with the name of the field that it stands at. */
const complaint = computed(() => {
  const { message = '', place } = reducer.problem.value ?? {}
  const key = /^settings\.(\w+)/.exec(place?.path ?? '')?.[1]
  const form = formOf(family.value.settings)
  const title = form.type === 'group' ? form.fields.find(f => f.key === key)?.title : undefined
  return title ? `${title}: ${message}` : message
})
/** Figures of the family that the record has, those that are drawn now first asked for. */
const names = computed(() => {
  const drawn = Object.keys(family.value.figures).filter(n => figures.value[n])
  return [...drawn, ...Object.keys(figures.value).filter(n => !(n in family.value.figures))]
})
const titleOf = (figure: string) => family.value.figures[figure]?.title ?? figure
const shown = ref<string | null>(null)
const name = computed(() => (shown.value && names.value.includes(shown.value) ? shown.value : (names.value[0] ?? null)))
/** While something is dragged only what is seen is drawn anew; when it rests, all. */
const all = useDebounceFn(() => reducer.reduce(draft.value, null), 300)
function renew(isDragged = false): void {
  void reducer.reduce(draft.value, isDragged && name.value ? [name.value] : null, isDragged)
  if (isDragged) void all()
}
onMounted(
  () =>
    hasData.value &&
    run(async () => {
      // What was typed while the record came stands over what is proposed.
      proposed.value = await reducer.load()
      renew()
    }),
)
/** The record is read anew: a sensor of it has been named, or a channel mended; what was kept may be superseded. */
const again = () =>
  run(async () => {
    await store.refresh()
    proposed.value = await reducer.load()
    renew()
  })
const declare = (own: DeclaredOwn[]) =>
  run(async () => {
    await reductions.declareOwn(page.value.article.id, own)
    await store.refresh()
  })
const typed = useDebounceFn(() => renew(), 120)
function set(key: string, value: unknown): void {
  writing.say(key, value)
  if (key === 'piece') void turnTo(value)
  else void typed()
}
/** Another piece of the record has windows and a height of its own. */
async function turnTo(piece: unknown): Promise<void> {
  // One that there is not is said where it was typed.
  await reducer.propose(piece).then(
    settings => (proposed.value = settings),
    () => undefined,
  )
  propose()
}
function move(path: string, x: number): void {
  // What stands at its usual place is not among the settings yet.
  const key = path.split('.')[0]!
  const ends = figure.value?.handles?.filter(h => h.path.startsWith(`${key}.`)) ?? []
  const from =
    draft.value[key] === undefined && ends.length > 0 ? { ...draft.value, [key]: ends.map(h => h.x) } : draft.value
  writing.move(path, x, from)
  renew(true)
}
function propose(): void {
  writing.propose()
  renew()
}
function discard(): void {
  writing.discard()
  renew()
}
const checks = computed(() => reducer.reduced.value?.checks ?? [])
/** What failed is looked at before it is kept; when it fails otherwise, anew. */
const failed = computed(() => checks.value.filter(c => !c.ok))
const fieldTitle = (path: string) => fieldTitles.value[path.split('.')[0]!] ?? path
const fieldTitles = computed(() => {
  const form = formOf(family.value.settings)
  return Object.fromEntries(form.type === 'group' ? form.fields.map(f => [f.key, f.title]) : [])
})
const failedWords = computed(() => failed.value.map(c => `${fieldTitle(c.path)}: ${c.words}`))
const looked = ref<string[]>([])
const isUnseen = computed(() => failedWords.value.some(w => !looked.value.includes(w)))
const keep = () =>
  run(async () => {
    const sent = { ...draft.value }
    await store.keepReduction(sent, failedWords.value)
    writing.settle(sent)
  })
const unsaved = computed(
  () => output.value !== null && (kept.value === null || !isSame(output.value, kept.value.output)),
)

const figure = computed<Figure | null>(() => {
  const f = name.value ? figures.value[name.value] : null
  return f ? { ...f, series: [...predictedCurves(name.value!), ...f.series] } : null
})
const span = computed((): [number, number] | null => {
  const timed = Object.values(figures.value).find(f => f.x.kind === 'time' && f.handles)
  const xs = timed?.series.flatMap(s => s.x.filter(v => v !== null)) ?? []
  return xs.length > 0 ? [Math.min(...xs), Math.max(...xs)] : null
})
/**
 * Channels that expressions may read, of all loggers of the record; a run that was recorded here has those of its plan.
 */
const roles = computed(() => {
  const main = page.value.datasets[0]
  const mapped = page.value.datasets
    .filter(d => d === main || d.joinsId === main?.id)
    .flatMap(d => Object.keys(d.channelMap ?? {}))
  return [...new Set(mapped.length > 0 ? mapped : (page.value.view?.channels.map(c => c.role) ?? []))].filter(
    r => r !== 't',
  )
})
const kindOf = (role: string): Kind | null => page.value.view?.channels.find(c => c.role === role)?.kind ?? null
const channelLabel = (role: string) => page.value.view?.channels.find(c => c.role === role)?.label ?? role
/** The first result that is only a lower bound, by its name. */
const bounded = computed(() =>
  Object.keys(family.value.results).find(key => output.value?.results[key]?.bound === 'atLeast'),
)
/** What goes on from the results waits until they rest. */
const carried = shallowRef<Carried[]>([])
watchDebounced(
  output,
  now => {
    carried.value = now ? followUpsFrom(family.value, now, draft.value, planned.value) : []
  },
  { immediate: true, debounce: 250 },
)
const carriedAt = ref(0)
const atTwins = ref(false)
const renewed = ref(0)
/** As tall as the results beside it. */
const height = computed(
  () => `${Math.min(500, Math.max(340, 38 * Object.keys(output.value?.results ?? {}).length - 20))}px`,
)
/** What no field of the chain can show. */
const elsewhere = computed(
  () =>
    problem.value ??
    (reducer.problem.value && !reducer.problem.value.place.path?.startsWith('settings.')
      ? reducer.problem.value
      : null),
)
</script>

<template>
  <main>
    <EmptyState
      v-if="!hasData"
      title="Nothing to reduce yet"
      text="Run the test, import a logger’s file, or type the readings as rows."
      action="To the run"
      :to="`/tests/${page.test.id}/run`"
    />
    <div v-else class="grid grid-cols-[19rem_1fr] items-start gap-3">
      <div class="space-y-2">
        <ReduceChain
          :family="family"
          :model-value="draft"
          :problem="reducer.problem.value"
          :prefer="units.prefer.value"
          :datasets="page.datasets"
          :roles="roles"
          :span="span"
          :open="open"
          :checks="checks"
          :test-id="page.test.id"
          :further="reducer.further.value"
          :output="reducer.reduced.value?.output ?? null"
          :article="page.article"
          @renew="again"
          @declare="declare"
          @set="set"
          @accept="writing.accept"
        />
        <div class="grid grid-cols-2 gap-2">
          <button
            type="button"
            class="button text-xs"
            :disabled="!proposed"
            data-hint="Windows from the record and the plan; what was typed or moved stays"
            @click="propose"
          >
            <Wand2 class="size-3.5" aria-hidden="true" />Detect again
          </button>
          <button
            type="button"
            class="button text-xs"
            :disabled="output === null || unsaved"
            data-hint="The kept settings on the other tests of this article"
            @click="atTwins = true"
          >
            <Copy class="size-3.5" aria-hidden="true" />Apply to similar tests
          </button>
        </div>
        <p v-if="writing.said.value.length > 0" class="text-xs text-quiet">
          {{ writing.said.value.length }} {{ writing.said.value.length === 1 ? 'setting' : 'settings' }} of yours, not
          kept yet. <button type="button" class="underline" @click="discard">Discard</button>
        </p>
        <ProblemNote :problem="elsewhere" />
      </div>
      <div class="min-w-0 space-y-3">
        <div class="grid grid-cols-[1fr_22rem] items-start gap-3">
          <section class="panel min-w-0">
            <ChoiceBar
              v-if="names.length > 1"
              class="mb-1 border-b border-line pb-1"
              label="Figures"
              :model-value="name ?? ''"
              :choices="names.map(value => ({ value, title: titleOf(value) }))"
              @update:model-value="shown = $event"
            />
            <FieldMap v-if="figure?.field" :figure="figure" :prefer="units.prefer.value" />
            <FigureChart
              v-else-if="figure"
              :key="name ?? ''"
              :figure="figure"
              :prefer="units.prefer.value"
              :name="`${name}-${page.test.id}`"
              :height="height"
              :open="open"
              @move="move"
            />
            <p v-else class="py-8 text-center text-sm text-quiet">
              {{ reducer.problem.value ? complaint : 'Reading the record …' }}
            </p>
            <PredictionFit
              v-if="figure && name"
              :figure="figure"
              :predicted="predictedCurves(name)"
              :prefer="units.prefer.value"
            />
          </section>
          <section class="panel" aria-live="polite">
            <h2 class="mb-1">Results{{ unsaved && kept ? ', new against kept' : '' }}</h2>
            <p v-if="output && reducer.problem.value" class="problem" role="alert">
              With these settings there is no result: {{ reducer.problem.value.message }} What stands here is of the
              settings before.
            </p>
            <ReducedResults
              v-if="output"
              :family="family"
              :output="output"
              :kept="unsaved ? (kept?.output ?? null) : null"
              :system="page.campaign.system"
            />
            <p v-else class="text-sm text-quiet">
              {{ reducer.problem.value ? 'No result with these settings: see the note at the chain.' : 'Reducing …' }}
            </p>
            <p v-for="w in output?.warnings ?? []" :key="w.code + w.message" class="mt-1 text-xs text-open">
              {{ w.message }}
            </p>
            <p v-if="bounded" class="mt-1 text-xs text-quiet">
              ≥: {{ draft.outcome === 'fixture' ? 'the fixture ended the test' : 'this record does not show its end' }},
              so the {{ resultLabel(bounded).toLowerCase() }} is a lower bound.
            </p>
            <FeedConstants
              v-if="output && kept && !unsaved"
              :family="family"
              :output="output"
              :slug="page.campaign.slug"
              :system="page.campaign.system"
              :source="`${page.article.name} ${page.revision.label}: ${page.test.title}`"
            />
            <div class="mt-2 space-y-1">
              <label
                v-for="w in unsaved ? failedWords : []"
                :key="w"
                class="flex items-start gap-1.5 rounded-md bg-caution-ground px-2 py-1 text-xs text-caution"
                ><input v-model="looked" type="checkbox" :value="w" class="mt-0.5" /><span
                  >{{ w }}. I have looked at it.</span
                ></label
              >
              <button
                v-if="unsaved || !kept"
                type="button"
                class="button-main w-full"
                :disabled="busy || !unsaved || isUnseen || reducer.problem.value !== null"
                @click="keep"
              >
                <Check class="size-4" aria-hidden="true" />{{ kept ? 'Keep these results' : 'Keep results' }}
              </button>
              <NuxtLink v-else :to="`/tests/${page.test.id}/judge`" class="button-main w-full">Go to Judge</NuxtLink>
              <p v-if="kept" class="text-xs text-quiet">
                Kept {{ moment(kept.createdAt) }} by {{ kept.by }}, method {{ kept.family }} {{ kept.methodVersion
                }}{{ kept.supersedesId ? ', supersedes an earlier one' : '' }}.
              </p>
            </div>
          </section>
        </div>
        <SpecimenSet
          v-if="kept"
          :family="family"
          :own-results="own.map(o => o.name)"
          :test-id="page.test.id"
          :slug="page.campaign.slug"
          :article="page.article.name"
          :limits="page.limits"
          :system="page.campaign.system"
          :renewed="`${kept.id}-${renewed}`"
        />
        <ResultTables
          v-if="output"
          :tables="output.tables"
          :system="page.campaign.system"
          :kind-of="kindOf"
          :label="channelLabel"
        />
        <section v-if="carried.length > 0" class="panel">
          <div class="mb-2 flex flex-wrap items-baseline gap-2">
            <h2>Further calculations</h2>
            <button
              v-for="(c, i) in carried"
              :key="c.calc"
              type="button"
              class="button px-2 py-0.5 text-sm"
              :aria-pressed="carriedAt === i + 1"
              @click="carriedAt = carriedAt === i + 1 ? 0 : i + 1"
            >
              {{ c.title }}
            </button>
          </div>
          <FollowUps
            v-if="carried[carriedAt - 1]"
            :key="carriedAt"
            :carried="carried[carriedAt - 1]!"
            :results="output!.results"
            :prefer="units.prefer.value"
          />
        </section>
      </div>
    </div>
    <TwinsDialog
      v-if="kept"
      :open="atTwins"
      :test-id="page.test.id"
      :family="family"
      :settings="draft"
      @close="atTwins = false"
      @done="renewed++"
    />
    <span class="sr-only">{{ family.title }}</span>
  </main>
</template>
