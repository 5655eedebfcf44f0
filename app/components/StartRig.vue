<script setup lang="ts">
import { Play } from '@lucide/vue'

const { page, api, store, units } = useTest()
const { busy, problem, run } = useAction()
const pace = ref(5)
const seed = ref(1)
const begin = () => run(async () => {
  await api.post(`/api/tests/${page.value.test.id}/runs`, { pace: pace.value, seed: seed.value })
  await store.refresh()
})
</script>

<template>
  <section class="panel space-y-3">
    <h2>Run on the simulated rig</h2>
    <p class="text-sm text-quiet">Climbs the ladder of {{ page.view!.rungs.length }} rungs to {{ units.show(page.view!.maxTarget, 'force') }}. The article it loads is drawn from the seed: near the calculation, not equal to it. A rehearsal, and a way to learn the console.</p>
    <div class="flex items-end gap-3">
      <label><span class="label">Pace</span><select v-model="pace" class="field"><option :value="1">as at the rig</option><option :value="5">5 times as fast</option><option :value="20">20 times as fast</option></select></label>
      <label><span class="label">Seed of the article</span><input v-model.number="seed" class="field w-24" type="number" step="1"></label>
      <button type="button" class="button-main" :disabled="busy" @click="begin"><Play class="size-4" aria-hidden="true" />Start the ladder</button>
    </div>
    <p class="text-xs text-quiet">The first sample locks the predictions.</p>
    <ProblemNote :problem="problem" />
  </section>
</template>
