<script setup lang="ts">
import { Play, Theater } from '@lucide/vue'
import { FAULT_KINDS, type FaultKind } from '@hypomet/core'

/** A run on the simulated rig, or a rehearsal of one with surprises, which touches no record. */
const props = defineProps<{ onlyRehearse?: boolean }>()

const { page, api, store, units } = useTest()
const { busy, problem, run } = useAction()
const pace = ref(5)
const seed = ref(1)
const surprise = ref<'drawn' | 'none' | FaultKind>('drawn')
const channels = computed(() => page.value.view!.channels.filter(c => c.expression === null))
const role = ref(channels.value.at(-1)?.role ?? '')
const after = ref(Math.round(page.value.view!.duration / 2))
const rehearse = () => run(async () => {
  const chosen = surprise.value
  const label = channels.value.find(c => c.role === role.value)?.label ?? role.value
  const faults = chosen === 'drawn' ? 'drawn' : chosen === 'none' ? [] : [{ kind: chosen, role: role.value, label, at: after.value }]
  await api.post(`/api/tests/${page.value.test.id}/rehearsals`, { pace: pace.value, seed: seed.value, faults })
  await store.refresh()
})
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
      <button v-if="!props.onlyRehearse" type="button" class="button-main" :disabled="busy" @click="begin"><Play class="size-4" aria-hidden="true" />Start the ladder</button>
    </div>
    <p v-if="!props.onlyRehearse" class="text-xs text-quiet">The first sample locks the predictions.</p>
    <div class="flex flex-wrap items-end gap-3 border-t border-line pt-3">
      <label><span class="label">Surprise</span><select v-model="surprise" class="field"><option value="drawn">drawn from the seed, not told</option><option value="none">none</option><option v-for="(words, kind) in FAULT_KINDS" :key="kind" :value="kind">a channel {{ words.split(':')[0] }}</option></select></label>
      <template v-if="surprise !== 'drawn' && surprise !== 'none'">
        <label><span class="label">Channel</span><select v-model="role" class="field"><option v-for="c in channels" :key="c.role" :value="c.role">{{ c.label }}</option></select></label>
        <label><span class="label">After, s</span><input v-model.number="after" class="field w-20" type="number" min="0"></label>
      </template>
      <button type="button" class="button" :disabled="busy" @click="rehearse"><Theater class="size-4" aria-hidden="true" />Rehearse</button>
    </div>
    <p class="text-xs text-quiet">A rehearsal climbs the same ladder and keeps no sample: afterwards it says what was noticed when, and what was missed.</p>
    <ProblemNote :problem="problem" />
  </section>
</template>
