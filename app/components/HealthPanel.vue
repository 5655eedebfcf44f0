<script setup lang="ts">
import { HeartPulse, Square } from '@lucide/vue'
import type { RecordPage } from '~/types/api'

/** Looks over all channels again, with other thresholds where wanted. */
const props = defineProps<{ records: RecordPage['records'] }>()
const emit = defineEmits<{ changed: [] }>()
const api = useApi()
const { busy, problem, run } = useAction()
const gapPercent = ref(1)
const flatSamples = ref(50)
const hampelSigma = ref(8)
const doing = ref<{ job: number; share: number; text: string } | null>(null)
const options = computed(() => ({ gapShare: gapPercent.value / 100, flatSamples: flatSamples.value, hampelSigma: hampelSigma.value }))
const sound = computed(() => gapPercent.value >= 0 && gapPercent.value <= 100 && Number.isInteger(flatSamples.value) && flatSamples.value >= 2 && hampelSigma.value > 0)
const look = () => run(async () => {
  try {
    for (const r of props.records) {
      const { jobId } = await api.post<{ jobId: number }>(`/api/datasets/${r.id}/health`, options.value)
      for (let status = 'running'; status === 'running'; ) {
        const state = await api.get<{ status: string; doing: string; progress: number }>(`/api/jobs/${jobId}`)
        status = state.status
        doing.value = { job: jobId, share: state.progress, text: state.doing }
        await new Promise(resolve => setTimeout(resolve, 150))
      }
    }
  } finally {
    doing.value = null
  }
  emit('changed')
})
const stop = () => doing.value && void api.post(`/api/jobs/${doing.value.job}/stop`)
</script>

<template>
  <section class="panel">
    <h2 class="mb-2">Look over all channels</h2>
    <form class="flex flex-wrap items-end gap-3" @submit.prevent="look">
      <label><span class="label">Gaps, % of samples, more than</span><input v-model.number="gapPercent" type="number" min="0" max="100" step="any" class="field w-28"></label>
      <label><span class="label">Flat, equal samples in a row</span><input v-model.number="flatSamples" type="number" min="2" step="1" class="field w-28"></label>
      <label><span class="label">Spike, σ from the neighbours’ median</span><input v-model.number="hampelSigma" type="number" min="0.1" step="any" class="field w-28"></label>
      <button class="button-main" :disabled="busy || !sound"><HeartPulse class="size-3.5" aria-hidden="true" />Look over</button>
      <p v-if="doing" class="flex items-center gap-2 text-sm text-quiet" role="status"><progress :value="doing.share" class="h-2 w-32" :aria-label="doing.text" />{{ doing.text }}<button type="button" class="button text-xs" @click="stop"><Square class="size-3.5" aria-hidden="true" />Stop</button></p>
    </form>
    <ProblemNote :problem="problem" />
    <p class="mt-1 text-xs text-quiet">Clipped is judged by the sensor’s full scale; a channel that holds nothing, or never changes, is dead.</p>
  </section>
</template>
