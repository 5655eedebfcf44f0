<script setup lang="ts">
const props = defineProps<{
  run: { id: number; startedAt: string; storedTo: number | null; events: { t: number; kind: string }[] }
}>()
const { store } = useTest()
const runs = useRunStore()
const { busy, problem, run: act } = useAction()
const go = (what: 'resume' | 'close') =>
  act(async () => {
    await runs[what](props.run.id)
    await store.refresh()
  })
</script>

<template>
  <section class="panel mx-auto max-w-2xl space-y-3 p-6">
    <p class="text-lg font-semibold">This run was interrupted</p>
    <p class="text-quiet">
      Hypomet stopped while the ladder was being climbed. What is stored
      {{ run.storedTo !== null ? `ends at ${clockText(run.storedTo)} of its clock` : 'holds no sample' }}, with
      {{ run.events.length }} {{ run.events.length === 1 ? 'event' : 'events' }}; what came after that is not there.
      Look at the rig first: what load is on it now?
    </p>
    <ProblemNote :problem="problem" />
    <div class="flex gap-2">
      <button type="button" class="button-main" :disabled="busy" @click="go('resume')">
        Go on from the last sample</button
      ><button type="button" class="button" :disabled="busy" @click="go('close')">Close with what was recorded</button>
    </div>
  </section>
</template>
