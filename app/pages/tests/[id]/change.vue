<script setup lang="ts">
import { KEEPABLE, type Candidate, type Need, type Reserve, type SizingRulesInput } from '@hypomet/core'
import { tradeOf, usualWeights } from '~/composables/change/tradeOf'

const { page, own, store, units, family, resultLabel } = useTest()
const undo = useUndoStore()
const hasResults = computed(() => page.value.reductions.length > 0)
/** Kinds of test for which it is known which sizes move what. */
const isSized = computed(() => family.value.stages.sizing !== undefined)
const { input, specimens, advice, chosen, problem, busy, load, resize, at } = useAdvice(page.value.test.id)
const rules = ref<SizingRulesInput>({})
const from = ref<'test' | 'revision'>('test')
onMounted(async () => {
  if (!hasResults.value || !isSized.value) return
  await load(from.value, null)
  rules.value = input.value?.rules ?? {}
})
watch(from, () => load(from.value, rules.value))
/** What is kept here stands here already: only what others did, or what is undone, is read anew. */
let ownKept = 0
watch(
  () => undo.changes,
  async () => {
    if (ownKept > 0) return void ownKept--
    await load(from.value, null)
    rules.value = input.value?.rules ?? {}
  },
)
const keep = useDebounceFn(async () => {
  const { step } = await store.keepSizing(rules.value)
  ownKept++
  undo.did(step, 'rules of sizing')
}, 600)
async function setRules(to: SizingRulesInput): Promise<void> {
  rules.value = to
  await resize(to)
  if (problem.value === null) await keep()
}

const weights = ref(usualWeights())
const traded = computed(() => (advice.value ? tradeOf(advice.value.candidates, weights.value) : null))
const ranked = computed(() =>
  (advice.value?.candidates ?? [])
    .map(c => ({ c, t: traded.value?.options.find(o => o.id === c.id) ?? null }))
    .sort((a, b) => (b.t?.score ?? 0) - (a.t?.score ?? 0)),
)
const accepting = shallowRef<Candidate | null>(null)
const sliders = useTemplateRef<{ setTo(sizes: Candidate['sizes']): void; $el: HTMLElement }>('sliders')
function closer(c: Candidate): void {
  sliders.value?.setTo(c.sizes)
  sliders.value?.$el.scrollIntoView({ block: 'center', behavior: 'smooth' })
}

const headline = computed(() => {
  const a = advice.value
  if (!a) return ''
  if (a.overDesigned) return 'Every limit is met with the wanted margin: mass can come out'
  if (a.unsized.length > 0 && a.needs.every(n => n.isMet || !n.isSized))
    return `${a.unsized.map(l => l.name).join(', ')}: short, and no scaling law covers it`
  if (a.driver)
    return a.driver.isMet
      ? `Nearest to its limit: ${a.driver.limit.name}`
      : `${a.driver.limit.name}: ${a.driver.driver ? `${a.driver.driver}-driven` : 'short'}`
  return page.value.limits.length === 0 ? 'There is no limit to size for' : 'No limit can be sized for'
})
const ratioWords = (n: Need) => (n.ratio === null ? '' : n.ratio.toFixed(3))
const reserve = (r: Reserve | null) =>
  r === null
    ? 'nothing'
    : `${units.show(r.massOut, 'mass', { digits: 3 })} ` +
      `(${r.title.toLowerCase()}${r.binding ? `; then ${r.binding.name} binds` : ''})`
/** Results of one's own, of which somebody may say how a change moves them. */
const movable = computed(() =>
  own.value.filter(o => input.value?.results[o.name]?.value != null).map(o => ({ key: o.name, label: o.name })),
)
const isMoved = (key: string) => rules.value.own?.[key] !== undefined
/** With what they may go: results that laws speak of, and sizes. */
const movers = computed(() => [
  ...(advice.value?.sized ?? []).filter(key => !isMoved(key)).map(key => ({ key, label: resultLabel(key) })),
  ...(advice.value?.dimensions ?? []).map(d => ({ key: d.key, label: d.label })),
])
const keepable = computed(() =>
  Object.entries(family.value.results)
    .filter(([key, r]) => advice.value !== null && (r.driver ? KEEPABLE.includes(r.driver) : isMoved(key)))
    .filter(([key]) => input.value?.results[key]?.value != null)
    .map(([key]) => ({ key, label: resultLabel(key) })),
)
/** What the sizing has come to, in a line above its candidates. */
const offer = computed(() => {
  if (!advice.value) return ''
  const { candidates, needs } = advice.value
  if (candidates.length > 0)
    return (
      `${candidates.length} ${candidates.length === 1 ? 'candidate meets' : 'candidates meet'} ` +
      'every limit that can be sized for'
    )
  return needs.every(n => n.isMet || !n.isSized)
    ? 'Nothing to size: what laws speak of is met, and nothing lighter can be had'
    : 'No change within reach meets every limit'
})
const noLaw = computed(
  () =>
    'No law is known by which sizes of the article move the results of ' +
    `${family.value.title.toLowerCase()} tests. Make the next revision on the article’s page with what was found, ` +
    'and carry the results on by the worksheets at the end of Reduce.',
)
</script>

<template>
  <main>
    <EmptyState
      v-if="!hasResults"
      title="Nothing to size from yet"
      text="Changes are sized from measured results."
      action="To the reduction"
      :to="`/tests/${page.test.id}/reduce`"
    />
    <div v-else class="space-y-3">
      <DecisionRecord />
      <EmptyState
        v-if="!isSized && !page.next"
        title="What follows from these results?"
        :text="noLaw"
        action="To the article"
        :to="`/articles/${page.article.id}`"
      />
      <template v-if="isSized">
        <div class="grid grid-cols-[minmax(0,1fr)_21rem] gap-3">
          <section class="panel">
            <h2 class="mb-1">What drives the change</h2>
            <template v-if="advice">
              <p class="text-lg font-semibold" data-headline>{{ headline }}</p>
              <p v-if="advice.over" class="text-sm" data-over>
                Before the first limit binds {{ reserve(advice.over.free) }} can come out; with stiffness kept,
                {{ reserve(advice.over.keepingStiffness) }}.
              </p>
              <table class="data mt-1">
                <thead>
                  <tr>
                    <th>Limit</th>
                    <th>Driven by</th>
                    <th class="number">Needed over actual, uncertainty and margin inside</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="n in advice.needs" :key="n.limit.id">
                    <td>{{ n.limit.name }}</td>
                    <td>{{ n.driver ?? '–' }}</td>
                    <td :class="['number font-semibold', n.isMet ? 'text-pass' : 'text-fail']">
                      {{ ratioWords(n) }} {{ n.isMet ? '· met' : '· short'
                      }}<span v-if="!n.isSized" class="block text-xs font-normal text-quiet"
                        >no scaling law covers it: a change is not sized for it<template v-if="!n.isMet"
                          >; <NuxtLink :to="`/compare?tests=${page.test.id}`">look where it lost</NuxtLink></template
                        ></span
                      >
                    </td>
                  </tr>
                  <tr v-for="l in advice.undemonstrated" :key="l.id">
                    <td>{{ l.name }}</td>
                    <td colspan="2" class="text-open">
                      not shown by this test (only a bound): test again before sizing for it
                    </td>
                  </tr>
                  <tr v-if="advice.needs.length + advice.undemonstrated.length === 0">
                    <td colspan="3" class="text-quiet">
                      No limit meets a result of this test.
                      <NuxtLink :to="`/campaigns/${page.campaign.slug}`">Limits of the campaign</NuxtLink>
                    </td>
                  </tr>
                </tbody>
              </table>
              <ul class="mt-2 space-y-0.5 text-xs text-quiet">
                <li v-for="n in advice.notes" :key="n">{{ n }}</li>
                <li v-for="l in advice.laws.filter(x => x.from === 'revisions')" :key="l.size + l.quantity">
                  {{ resultLabel(l.quantity) }}: power {{ l.exponent.toFixed(2) }} ± {{ (2 * l.u).toFixed(2) }} of
                  {{ advice.dimensions.find(d => d.key === l.size)?.label.toLowerCase() }}, {{ l.because }}.
                </li>
              </ul>
            </template>
            <p v-else-if="!problem" class="text-quiet">Sizing …</p>
            <ProblemNote :problem="problem" />
            <NuxtLink v-if="problem" :to="`/articles/${page.article.id}`" class="button mt-2">To the article</NuxtLink>
          </section>
          <SizingRules
            v-if="input"
            v-model:from="from"
            :model-value="rules"
            :dimensions="advice?.dimensions ?? []"
            :specimens="specimens"
            :keepable="keepable"
            :movable="movable"
            :movers="movers"
            @update:model-value="setRules"
          />
        </div>
        <template v-if="advice && advice.needs.length > 0">
          <h2 class="pt-1" :class="busy ? 'opacity-60' : ''">
            {{ offer }}
          </h2>
          <TradeWeights
            v-if="advice.candidates.length > 1 && traded"
            v-model="weights"
            :trade="traded"
            :candidates="advice.candidates"
          />
          <CandidateRow
            v-for="{ c, t } in ranked"
            :key="c.id"
            :candidate="c"
            :traded="ranked.length > 1 ? t : null"
            :limits="page.limits"
            :is-first="c.id === traded?.winner"
            :may-accept="page.next === null"
            @accept="accepting = c"
            @closer="closer(c)"
          />
          <p v-for="r in advice.ruledOut" :key="r.title" class="text-sm text-quiet">
            <span class="font-medium text-ink">{{ r.title }}</span>: {{ r.reason }}.
          </p>
        </template>
        <SizeSliders
          v-if="advice && advice.dimensions.length > 0"
          ref="sliders"
          :dimensions="advice.dimensions"
          :chosen="chosen"
          :limits="page.limits"
          :may-take="page.next === null"
          @at="at"
          @take="accepting = $event"
        />
      </template>
      <OperatingLimits />
    </div>
    <AcceptChange :candidate="accepting" :from="from" :weights="weights" @close="accepting = null" />
  </main>
</template>
