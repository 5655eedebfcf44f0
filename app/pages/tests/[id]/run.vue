<script setup lang="ts">
const { page, known, store } = useTest()
const rig = useRigStore()
const dropped = useDroppedFile()
/** A page that stands here before a run begins becomes its console by itself. */
watch(
  () => rig.going.filter(g => g.testId === page.value.test.id).map(g => g.runId),
  ids => {
    const isKnown = (id: number) =>
      page.value.runs.some(r => r.id === id) || page.value.rehearsals.some(r => r.runId === id)
    if (ids.some(id => !isKnown(id))) void store.refresh()
  },
)
const openRun = computed(() => page.value.runs.find(r => r.status !== 'closed') ?? null)
const rehearsing = computed(() => page.value.rehearsals.find(r => r.endedAt === null) ?? null)
const rehearsed = computed(() => page.value.rehearsals.filter(r => r.endedAt !== null))
const open = computed(() => page.value.ready.filter(i => i.state === 'open' || i.state === 'failed'))
const forced = useForcedTheme()
watchEffect(() => {
  forced.value = openRun.value?.status === 'running' || rehearsing.value ? 'dark' : null
})
onBeforeUnmount(() => {
  forced.value = null
})
</script>

<template>
  <main :class="rehearsing || openRun?.status === 'running' ? 'max-w-none!' : ''">
    <div v-if="!page.view && page.runs.length === 0" class="space-y-3">
      <EmptyState
        v-if="!dropped.file.value"
        title="Nothing to run yet"
        text="A run climbs the ladder of the plan. Data that you have already needs no plan: import it, or type it in."
        action="Plan the test"
        :to="`/tests/${page.test.id}/plan`"
      />
      <DataAtHand v-if="known" />
    </div>
    <ClientOnly v-else-if="openRun?.status === 'running'"
      ><RunConsole :key="openRun.id" :run-id="openRun.id" :source="openRun.source"
    /></ClientOnly>
    <ClientOnly v-else-if="rehearsing"
      ><RunConsole :key="rehearsing.runId" :run-id="rehearsing.runId" rehearsal
    /></ClientOnly>
    <div v-else-if="open.length > 0 && page.runs.length === 0" class="space-y-3">
      <EmptyState
        :title="`${open.length} items of the checklist are open`"
        :text="`They block the run: ${open
          .slice(0, 3)
          .map(i => i.text)
          .join('; ')}${open.length > 3 ? '; …' : '.'}`"
        action="To the checklist"
        :to="`/tests/${page.test.id}/ready`"
      />
      <RehearsalDebrief v-if="rehearsed.length > 0" :rehearsals="rehearsed" />
      <div class="grid items-start gap-3 lg:grid-cols-2">
        <StartRehearsal />
        <DataAtHand v-if="known" />
      </div>
    </div>
    <InterruptedRun v-else-if="openRun" :run="openRun" />
    <div v-else class="space-y-3">
      <RehearsalDebrief v-if="rehearsed.length > 0" :rehearsals="rehearsed" />
      <RunRecord v-if="page.runs.length > 0" :runs="page.runs" :datasets="page.datasets" />
      <div class="grid items-start gap-3 lg:grid-cols-2">
        <StartRun v-if="page.view" />
        <div class="space-y-3"><StartRehearsal v-if="page.view" /><DataAtHand v-if="known" is-ready /></div>
      </div>
    </div>
  </main>
</template>
