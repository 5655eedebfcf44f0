<script setup lang="ts">
import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/vue'
import { firstPlan, planningOf, sensorClashes, type Finding, type Kind, type QuantityInput } from '@hypomet/core'
import { ownedBy, setPart } from '~/composables/plan/setPart'
import { copyOf, usePlanDraft, type PlanDraft, type RungDraft } from '~/composables/plan/usePlanDraft'

const { page, store, units, expectedPlaces } = useTest()
const family = page.value.test.family
const planning = planningOf(family)
/** Data was there first: a plan that nobody made is not made up for it. */
const wasNotPlanned = computed(() => page.value.test.plan === null && page.value.datasets.length > 0)
const plan = usePlanDraft(
  (page.value.test.plan ??
    firstPlan(family, {
      properties: page.value.revision.properties,
      facts: page.value.revision.facts,
      limits: page.value.limits,
      prefer: units.prefer.value,
      last: page.value.last,
    })) as PlanDraft,
)
const { draft, viewed, view, problems, problemAt, history, saved, saveProblem, fixed, takeTheirs, editCount } = plan
const prefer = computed(() => units.prefer.value)
const status = computed(() => (problems.value.length > 0 ? 'not saved yet' : saved.value ? 'saved' : 'saving …'))
const needed = computed(() => planning.needed.map(n => n.role))
const findings = computed(() => [...(view.value?.findings ?? []), ...clashes.value])
const clashes = computed(() =>
  sensorClashes(
    draft.value.channels,
    { testId: page.value.test.id, plannedOn: page.value.test.plannedOn },
    page.value.elsewhere,
    id => page.value.sensors.find(s => s.id === id)?.name ?? 'This sensor',
  ),
)
const further = computed(() => (draft.value['also'] ?? []) as { name: string; kind: Kind }[])
const goal = computed(() => view.value?.designTarget ?? 1)
/** What the ladder may be written up to: limits that are read on what it commands. */
const goals = computed(() =>
  page.value.limits
    .filter(l => view.value && planning.readBy[l.quantity] === view.value.commanded.role)
    .map(l => ({
      label: `${l.name}, ${units.show(l.value, view.value!.commanded.kind, { digits: 3 })}`,
      value: l.value,
    })),
)
const firstProblem = computed(() => problems.value[0] ?? null)
const strip = (p: string | undefined) => (p ?? '').replace(/^settings\./, '')

const TABS = [
  {
    key: 'loading',
    title: 'Loading',
    paths: ['loading', 'article', 'capacities', 'also', 'ramp', 'rate', 'oneG', 'designLoad'],
  },
  { key: 'channels', title: 'Channels', paths: ['channels'] },
  { key: 'hazards', title: 'Hazards', paths: ['hazards', 'furtherHazards'] },
  { key: 'forecast', title: 'Prediction and forecast', paths: [] },
  { key: 'movement', title: 'Movement and ends', paths: ['movement', 'restraint'] },
  { key: 'recording', title: 'Logger and cameras', paths: ['acquisition', 'cameras'] },
  { key: 'watch', title: 'Watch rules', paths: ['watch', 'silence', 'onAbort'] },
  { key: 'people', title: 'People and permits', paths: ['people', 'permits', 'signOff', 'ready'] },
  { key: 'similitude', title: 'Test beside service', paths: ['similitude'] },
]
const tab = ref(0)
const tabOf = (path: string) => TABS.findIndex(t => t.paths.includes(path.split('.')[0]!))
const stopsOf = (paths: string[]) =>
  findings.value.filter(f => f.severity === 'stop' && paths.includes(f.path.split('.')[0]!)).length
function showPath(path: string): void {
  const found = tabOf(path)
  if (found >= 0) tab.value = found
}
/** What was an example or derived is somebody's own from now on. */
function confirm(f: Finding): void {
  if (f.code === 'design-derived') return void setOf('designFrom', undefined)
  setOf(
    'examples',
    ((draft.value['examples'] ?? []) as string[]).filter(part => part !== f.path),
  )
}
const setOf = setPart(draft)
const take = (taken: PlanDraft) => {
  draft.value = copyOf(taken)
}
/** A ladder by a rule goes as far as somebody said. */
const setRungs = (rungs: RungDraft[]) => {
  draft.value = { ...draft.value, rungs, examples: ownedBy(draft.value, 'rungs') }
}
const useSensor = (role: string, sensorId: number) => {
  draft.value = { ...draft.value, channels: draft.value.channels.map(c => (c.role === role ? { ...c, sensorId } : c)) }
}
const part = (key: string) =>
  computed({
    get: () => (draft.value[key] ?? (key === 'hazards' ? {} : [])) as never,
    set: value => {
      draft.value = { ...draft.value, [key]: value }
    },
  })
const silence = computed({
  get: () => (draft.value['silence'] ?? null) as QuantityInput | null,
  set: value => setOf('silence', value),
})
const [hazards, furtherHazards, watchRules] = [part('hazards'), part('furtherHazards'), part('watch')]
const onAbort = part('onAbort')
const channels = computed({
  get: () => draft.value.channels,
  set: value => {
    draft.value = { ...draft.value, channels: value }
  },
})
const theirs = async () => {
  await store.refresh()
  takeTheirs()
}
onKeyStroke(['z', 'Z'], e => {
  if (!(e.ctrlKey || e.metaKey) || (e.target as HTMLElement).closest('input, textarea')) return
  e.preventDefault()
  if (e.shiftKey) history.redo()
  else history.undo()
})
</script>

<template>
  <main v-if="wasNotPlanned">
    <EmptyState
      title="Not planned here"
      text="The data of this test was recorded elsewhere and imported: it is reduced and judged without a plan. The next
        test of this article can be planned."
      action="To the campaign"
      :to="`/campaigns/${page.campaign.slug}`"
    />
  </main>
  <main v-else class="space-y-3">
    <PlanHead
      :status="status"
      :findings="findings"
      :edit="editCount"
      @start="take"
      @show="showPath"
      @confirm="confirm"
    />
    <ul v-if="problems.length > 0" role="alert" class="panel space-y-0.5 border-fail py-2 text-sm text-fail">
      <li v-for="p in problems" :key="p.place.path ?? p.message">
        <button type="button" class="text-left hover:underline" @click="showPath(p.place.path ?? '')">
          {{ p.message }} <span class="text-quiet">({{ strip(p.place.path) }})</span>
        </button>
      </li>
    </ul>
    <div v-if="saveProblem" class="flex items-center gap-2">
      <ProblemNote :problem="saveProblem" /><button
        v-if="saveProblem.code === 'changed-meanwhile'"
        type="button"
        class="button"
        @click="theirs"
      >
        Take theirs
      </button>
    </div>
    <div class="grid grid-cols-[30rem_1fr] items-start gap-3">
      <PlanLadder
        v-model="draft.rungs"
        :view="view"
        :prefer="prefer"
        :fixed="fixed"
        :further="further"
        :problem-at="problemAt"
        :history="history"
        :findings="findings"
        :goal="goal"
        :goals="goals"
        @rule="setRungs"
      />
      <div class="min-w-0 space-y-3">
        <section class="panel">
          <div class="flex items-baseline justify-between">
            <h2>Set-up at the top rung</h2>
            <span v-if="view" class="text-xs text-quiet"
              >{{ units.show(view.maxTarget, view.commanded.kind) }} ·
              {{ view.loading.drawing.toScale ? 'lengths and deflection to scale' : 'not to scale' }}</span
            >
          </div>
          <SetUpDrawing v-if="view" :drawing="view.loading.drawing" :prefer="prefer" />
          <p v-else class="text-sm text-quiet">The set-up draws itself once the numbers hold together.</p>
        </section>
        <FiredLessons
          :firings="page.firings"
          :campaign-id="page.campaign.id"
          :fixed="page.runs.length > 0"
          @answered="store.refresh()"
        />
      </div>
    </div>
    <TabGroup :selected-index="tab" as="section" class="panel" @change="tab = $event">
      <TabList class="-mt-1 mb-3 flex flex-wrap gap-1 border-b border-line">
        <Tab
          v-for="(t, i) in TABS"
          :key="t.key"
          :class="[
            '-mb-px border-b-2 px-2 py-1 text-sm font-medium',
            i === tab ? 'border-accent text-ink' : 'border-transparent text-quiet hover:text-ink',
          ]"
          >{{ t.title
          }}<span v-if="stopsOf(t.paths) > 0" class="ml-1 rounded bg-fail px-1 text-2xs font-bold text-panel"
            >{{ stopsOf(t.paths) }}<span class="sr-only"> errors to fix</span></span
          ></Tab
        >
      </TabList>
      <TabPanels>
        <TabPanel :tabindex="-1"
          ><PlanLoading
            v-model="draft"
            :view="view"
            :prefer="prefer"
            :fixed="fixed"
            :family="family"
            :facts="page.revision.facts"
            :problem="firstProblem"
            :problem-at="problemAt"
        /></TabPanel>
        <TabPanel :tabindex="-1"
          ><ChannelTable
            v-if="view"
            v-model="channels"
            :views="view.channels"
            :counts="view.data.counts"
            :sensors="page.sensors"
            :prefer="prefer"
            :fixed="fixed"
            :needed="needed"
            :elsewhere="page.elsewhere"
            :findings="findings"
            :problem-at="problemAt"
        /></TabPanel>
        <TabPanel :tabindex="-1"
          ><PlanHazards
            v-if="view"
            v-model:answers="hazards"
            v-model:further="furtherHazards"
            :hazards="view.hazards"
            :caution="view.caution"
            :prefer="prefer"
            :fixed="fixed"
        /></TabPanel>
        <TabPanel :tabindex="-1"
          ><PlanForecast v-if="viewed" :viewed="viewed" :fixed="fixed" @use="useSensor"
        /></TabPanel>
        <TabPanel :tabindex="-1"
          ><PlanMovement
            v-if="view"
            v-model="draft"
            :view="view"
            :prefer="prefer"
            :fixed="fixed"
            :problem="firstProblem"
        /></TabPanel>
        <TabPanel :tabindex="-1"
          ><PlanRecording
            v-if="view"
            v-model="draft"
            :view="view"
            :prefer="prefer"
            :fixed="fixed"
            :problem="firstProblem"
            :places="expectedPlaces"
        /></TabPanel>
        <TabPanel :tabindex="-1"
          ><PlanWatch
            v-model="watchRules"
            v-model:silence="silence"
            :channels="draft.channels"
            :prefer="prefer"
            :fixed="fixed"
            :findings="findings"
            :problem-at="problemAt" />
          <PlanOnAbort v-model="onAbort" :fixed="fixed" :problem-at="problemAt"
        /></TabPanel>
        <TabPanel :tabindex="-1"
          ><PlanPeople v-model="draft" :prefer="prefer" :fixed="fixed" :problem="firstProblem"
        /></TabPanel>
        <TabPanel :tabindex="-1"
          ><PlanSimilitude
            v-if="view"
            v-model="draft"
            :view="view"
            :prefer="prefer"
            :fixed="fixed"
            :problem="firstProblem"
        /></TabPanel>
      </TabPanels>
    </TabGroup>
  </main>
</template>
