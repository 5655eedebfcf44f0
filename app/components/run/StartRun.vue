<script setup lang="ts">
import { Play, Volume2 } from '@lucide/vue'

/** Where a run's readings come from: the simulated rig, the user's own logger, or people who read and shout. */
const { page, store, units } = useTest()
const runs = useRunStore()
const { busy, problem, run } = useAction()
const SOURCES = [
  { value: 'rig', title: 'Simulated rig' },
  { value: 'stream', title: 'A logger’s live stream' },
  { value: 'crew', title: 'Read by hand' },
] as const
const source = ref<(typeof SOURCES)[number]['value']>('rig')
const view = computed(() => page.value.view!)
const rig = useRigChoice()
/** Asked anew for each run: a crew that looks at the article hears what it does not see. */
const speech = useSpeech()
const siren = useSiren()
const isLoud = ref(true)
function hear(): void {
  siren.sound()
  speech.say('This is how an abort sounds.', true)
}
const begin = (body: BodyAt<'POST', `/api/tests/${number}/runs`>) =>
  run(async () => {
    speech.on.value = isLoud.value
    await runs.start(page.value.test.id, body)
    await store.refresh()
  })
</script>

<template>
  <section class="panel space-y-3" aria-label="Start a run">
    <ChoiceBar v-model="source" :choices="SOURCES" label="Where the readings come from" />
    <template v-if="source === 'rig'">
      <p class="text-sm text-quiet">
        Climbs the ladder of {{ view.rungs.length }} rungs to {{ units.show(view.maxTarget, view.commanded.kind) }}. The
        article it loads is drawn from the seed: near what is expected, not equal to it. A way to learn the console.
      </p>
      <RigChoice :choice="rig" />
      <button type="button" class="button-main" :disabled="busy" @click="begin({ source: 'rig', ...rig.asked() })">
        <Play class="size-4" aria-hidden="true" />Start the ladder
      </button>
    </template>
    <StartStream v-else-if="source === 'stream'" :busy="busy" @begin="begin({ source: 'stream', setUp: $event })" />
    <template v-else>
      <p class="text-sm text-quiet">
        Dial gauges and called-out readings: type what is called out, Enter records it. A rung counts as reached when it
        is read. Each reading keeps who, when and what target, and has the uncertainty of its sensor.
      </p>
      <p v-if="view.channels.some(c => c.sensorId === null && c.expression === null)" class="text-sm text-open">
        {{
          view.channels
            .filter(c => c.sensorId === null && c.expression === null)
            .map(c => c.label)
            .join(', ')
        }}: no sensor in the plan, so the readings will have no uncertainty.
      </p>
      <button type="button" class="button-main" :disabled="busy" @click="begin({ source: 'crew' })">
        <Play class="size-4" aria-hidden="true" />Start the ladder
      </button>
    </template>
    <p class="flex flex-wrap items-center gap-2 border-t border-line pt-2 text-sm">
      <label class="flex items-center gap-1.5"
        ><input v-model="isLoud" type="checkbox" />Voice and siren in this run, on this machine</label
      >
      <button type="button" class="button text-xs" @click="hear">
        <Volume2 class="size-3.5" aria-hidden="true" />Hear it
      </button>
    </p>
    <p class="text-xs text-quiet">The first sample locks the predictions.</p>
    <ProblemNote :problem="problem" />
  </section>
</template>
