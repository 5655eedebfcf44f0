<script setup lang="ts">
import { HeartPulse, Square } from '@lucide/vue'
import type { RecordPage } from '~/types/api'

/** Looks over all channels again, with other thresholds where wanted. */
const props = defineProps<{ records: RecordPage['records'] }>()
const emit = defineEmits<{ changed: [] }>()
const recordStore = useRecordStore()
const { busy, problem, run } = useAction()
const gapPercent = ref(1)
const flatSamples = ref(50)
const hampelSigma = ref(8)
const { doing, follow, stop } = useJob()
const options = computed(() => ({
  gapShare: gapPercent.value / 100,
  flatSamples: flatSamples.value,
  hampelSigma: hampelSigma.value,
}))
const sound = computed(
  () =>
    gapPercent.value >= 0 &&
    gapPercent.value <= 100 &&
    Number.isInteger(flatSamples.value) &&
    flatSamples.value >= 2 &&
    hampelSigma.value > 0,
)
const look = () =>
  run(async () => {
    for (const r of props.records) {
      const { jobId } = await recordStore.checkHealth(r.id, options.value)
      await follow(jobId)
    }
    emit('changed')
  })
</script>

<template>
  <section class="panel">
    <h2 class="mb-2">Check the data quality of all channels</h2>
    <form class="flex flex-wrap items-end gap-3" @submit.prevent="look">
      <label
        ><span class="label">Gaps, % of samples, more than</span
        ><input v-model.number="gapPercent" type="number" min="0" max="100" step="any" class="field w-28"
      /></label>
      <label
        ><span class="label">Flat, equal samples in a row</span
        ><input v-model.number="flatSamples" type="number" min="2" step="1" class="field w-28"
      /></label>
      <label
        ><span class="label">Spike, σ from the neighbours’ median</span
        ><input v-model.number="hampelSigma" type="number" min="0.1" step="any" class="field w-28"
      /></label>
      <button class="button-main" :disabled="busy || !sound">
        <HeartPulse class="size-3.5" aria-hidden="true" />Check data quality
      </button>
      <p v-if="doing" class="flex items-center gap-2 text-sm text-quiet" role="status">
        <progress :value="doing.share" class="h-2 w-32" :aria-label="doing.text" />{{ doing.text
        }}<button type="button" class="button text-xs" @click="stop">
          <Square class="size-3.5" aria-hidden="true" />Stop
        </button>
      </p>
    </form>
    <p v-if="!sound" class="problem">Gaps 0 to 100 %; two or more equal samples; a spike more than 0 σ.</p>
    <ProblemNote :problem="problem" />
    <p class="mt-1 text-xs text-quiet">
      Clipped is judged by the sensor’s full scale; a channel that holds nothing, or never changes, is dead.
    </p>
  </section>
</template>
