<script setup lang="ts">
const props = defineProps<{ run: { id: number; startedAt: string; events: { t: number; kind: string }[] } }>()
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
      Hypomet stopped while the ladder was being climbed. All but the last instant was recorded,
      {{ run.events.length }} events among it. Look at the rig first: what load is on it now?
    </p>
    <ProblemNote :problem="problem" />
    <div class="flex gap-2">
      <button type="button" class="button-main" :disabled="busy" @click="go('resume')">
        Go on from the last sample</button
      ><button type="button" class="button" :disabled="busy" @click="go('close')">Close with what was recorded</button>
    </div>
  </section>
</template>
