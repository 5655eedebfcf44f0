<script setup lang="ts">
import { parseSettings, quantity, type QuantityInput } from '@hypomet/core'
import type { ConsoleView } from '~/composables/run/useConsole'

/** It broke: how and where, and the largest load that somebody read or heard. The run is over with it. */
const props = defineProps<{ open: boolean; console: ConsoleView; lastCalled: number | null }>()
const emit = defineEmits<{
  close: []
  broke: [seen: { mode: string; place: string; note: string; value: number | null }]
}>()
const { units } = useTest()
const { view } = props.console
const form = reactive({ mode: '', place: '', note: '', peak: null as QuantityInput | null })
const peak = computed(() => (form.peak === null ? null : parseSettings(quantity(view.value.commanded.kind), form.peak)))
/** A peak below what was held is no peak. */
const isLow = computed(() => peak.value !== null && props.lastCalled !== null && peak.value < props.lastCalled)
const last = computed(() =>
  props.lastCalled === null
    ? 'No load was called out yet.'
    : `Last confirmed: ${units.show(props.lastCalled, view.value.commanded.kind, { digits: 4 })}.`,
)
</script>

<template>
  <BaseDialog
    :open="open"
    title="It broke"
    :description="`${last} The run ends here; nothing is to be unloaded. Stay clear until all is at rest.`"
    @close="emit('close')"
  >
    <form
      class="space-y-3"
      @submit.prevent="emit('broke', { mode: form.mode, place: form.place, note: form.note, value: peak })"
    >
      <BreakFields v-model:mode="form.mode" v-model:place="form.place" />
      <QuantityField
        v-model="form.peak"
        :kind="view.commanded.kind"
        :prefer="units.prefer.value"
        label="Largest load read or heard, if any"
        :problem="isLow ? 'This is less than what was held.' : undefined"
        optional
      />
      <label class="block"><span class="label">What was seen</span><input v-model="form.note" class="field" /></label>
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">It did not</button
        ><button class="button-main" :disabled="isLow">It broke: end the run</button>
      </div>
    </form>
  </BaseDialog>
</template>
