<script setup lang="ts">
import { Theater } from '@lucide/vue'

/** The ladder on the simulated rig with surprises, which touches no record. */
const { page, store } = useTest()
const runs = useRunStore()
const { busy, problem, run } = useAction()
const rig = useRigChoice('drawn')
const rehearse = () =>
  run(async () => {
    await runs.rehearse(page.value.test.id, rig.asked())
    await store.refresh()
  })
</script>

<template>
  <section class="panel space-y-3" aria-label="Rehearse">
    <h2>Rehearse</h2>
    <p class="text-sm text-quiet">
      Climbs the same ladder on the simulated rig and keeps no sample: afterwards it says what was noticed when, what
      was missed, and how long it took until the ladder stood.
    </p>
    <RigChoice :choice="rig" />
    <button type="button" class="button" :disabled="busy" @click="rehearse">
      <Theater class="size-4" aria-hidden="true" />Rehearse
    </button>
    <ProblemNote :problem="problem" />
  </section>
</template>
