<script setup lang="ts">
const { page } = useTest()
const openRun = computed(() => page.value.runs.find(r => r.status !== 'closed') ?? null)
const open = computed(() => page.value.ready.filter(i => i.state === 'open'))
const forced = useForcedTheme()
watchEffect(() => { forced.value = openRun.value?.status === 'running' ? 'dark' : null })
onBeforeUnmount(() => { forced.value = null })
</script>

<template>
  <main>
    <EmptyState v-if="!page.view" title="Nothing to run yet" text="A run climbs the ladder of the plan." action="Plan the test" :to="`/tests/${page.test.id}/plan`" />
    <EmptyState v-else-if="open.length > 0 && page.runs.length === 0" :title="`${open.length} items of the checklist are open`" :text="`They block the run: ${open.slice(0, 3).map(i => i.text).join('; ')}${open.length > 3 ? '; …' : '.'}`" action="To the checklist" :to="`/tests/${page.test.id}/ready`" />
    <RunConsole v-else-if="openRun?.status === 'running'" :run-id="openRun.id" />
    <InterruptedRun v-else-if="openRun" :run="openRun" />
    <div v-else class="space-y-3">
      <RunRecord v-if="page.runs.length > 0" :runs="page.runs" :datasets="page.datasets" />
      <div class="grid grid-cols-2 items-start gap-3">
        <StartRig />
        <ImportPanel />
      </div>
    </div>
  </main>
</template>
