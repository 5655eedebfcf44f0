<script setup lang="ts">
/**
 * On every page: what runs, with its abort. x and F9 are heard everywhere, F9 also while somebody types; where several
 * runs are on and none of them is this page's, the button is asked for.
 */
const rig = useRigStore()
onMounted(() => rig.watchRigs())
const { own, runs, testId } = useOwnRun()
/** Its own console has all of it. */
const shown = computed(() => runs.value.filter(g => g.testId !== testId.value))
const band = useTemplateRef<HTMLElement>('band')
function onKey(e: KeyboardEvent): void {
  const isAbort = e.key === 'F9' || ((e.key === 'x' || e.key === 'X') && !isTyping(e))
  if (!isAbort || e.repeat || e.ctrlKey || e.metaKey || e.altKey || (own.value === null && runs.value.length === 0))
    return
  e.preventDefault()
  e.stopPropagation()
  if (own.value !== null) void rig.abort(own.value)
  else band.value?.querySelector('button')?.focus()
}
// Before any dialog or field hears it.
useEventListener('keydown', onKey, { capture: true })
const WORDS: Record<string, string> = {
  ramp: 'loading',
  hold: 'holding',
  waiting: 'waits for a look',
  paused: 'held',
  unloading: 'unloading',
}
</script>

<template>
  <div ref="band" class="no-print">
    <p
      v-if="rig.unheard.length > 0"
      role="alert"
      class="bg-fail px-4 py-3 text-center text-3xl font-bold text-panel"
      data-unheard
    >
      Not heard by Hypomet: unload by hand
    </p>
    <p
      v-if="rig.unstored.length > 0"
      role="alert"
      class="bg-open px-4 py-1 text-center font-semibold text-panel"
      data-unstored
    >
      The abort was heard and acted on, but is not on the disk yet: keep this machine running.
    </p>
    <section
      v-for="g in shown"
      :key="g.runId"
      class="flex items-center gap-4 border-b border-fail bg-panel px-4 py-1"
      :aria-label="`Running: ${g.title}`"
      data-run-band
    >
      <p class="min-w-0 flex-1">
        <strong class="text-fail">Running</strong>
        <NuxtLink :to="`/tests/${g.testId}/run`" class="ml-2 font-medium">{{ g.title }}</NuxtLink>
        <span class="ml-2 text-quiet">rung {{ g.rung }} of {{ g.rungs }}, {{ WORDS[g.phase] ?? g.phase }}</span>
      </p>
      <AbortButton class="lg:min-h-10!" :run-id="g.runId" />
    </section>
  </div>
</template>
