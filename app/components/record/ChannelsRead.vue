<script setup lang="ts">
import { Wrench } from '@lucide/vue'
import type { Mendable } from '~/types/api'

/**
 * The channels that are read: which sensor read each, for what is known of it is the uncertainty of the results, and,
 * where one was taken wrongly, its role, unit and sign.
 */
const props = defineProps<{ testId: number }>()
const emit = defineEmits<{ named: [] }>()
const store = useReductionStore()
const { busy, problem, run } = useAction()
const gauges = shallowRef<Awaited<ReturnType<typeof store.gauges>>>({ channels: [], sensors: [], roles: [] })
const read = async () => {
  gauges.value = await store.gauges(props.testId)
}
onMounted(read)
const channels = computed(() => gauges.value.channels)
const unnamed = computed(() => channels.value.filter(c => c.sensorId === null && c.expression === null).length)
/** Of many channels those that are looked for. */
const MOST = 12
const words = ref('')
const shown = computed(() =>
  channels.value.filter(c => c.name.toLowerCase().includes(words.value.toLowerCase())).slice(0, MOST),
)
/** A sensor reads what is of its kind; one of a kind of its own is left to whoever names it. */
const choicesOf = (c: { unit: string; sensorId: number | null }) =>
  gauges.value.sensors.filter(s => s.unit === null || s.unit === c.unit || s.id === c.sensorId)
const name = (role: string, id: string) =>
  run(async () => {
    await store.nameGauge(props.testId, { role, sensorId: id === '' ? null : Number(id) })
    await read()
    emit('named')
  })
const mended = shallowRef<Mendable | null>(null)
async function changed(): Promise<void> {
  await read()
  emit('named')
}
</script>

<template>
  <details v-if="channels.length > 0" class="mt-1" :open="unnamed > 0">
    <summary class="cursor-pointer text-sm">
      Channels and sensors <span class="text-xs text-quiet">{{ unnamed > 0 ? `${unnamed} not named` : 'named' }}</span>
    </summary>
    <p v-if="unnamed > 0" class="text-xs text-quiet">
      What is known of a sensor becomes the uncertainty of the results.
      <NuxtLink to="/sensors">Enter a sensor</NuxtLink> with its range and what it may be off by.
    </p>
    <input
      v-if="channels.length > MOST"
      v-model.trim="words"
      type="search"
      class="field mt-1"
      :placeholder="`Find one of ${channels.length.toLocaleString('en')} channels`"
      aria-label="Find a channel"
    />
    <div v-for="g in shown" :key="g.id" class="mt-1 text-xs">
      <p class="flex items-center justify-between gap-2">
        <span class="label min-w-0 truncate">{{ g.name || g.role }}</span>
        <button
          type="button"
          class="button px-1.5 py-0 text-xs"
          :aria-label="`Mend ${g.name || g.role}`"
          @click="mended = g"
        >
          <Wrench class="size-3" aria-hidden="true" />Mend
        </button>
      </p>
      <p v-if="g.expression" class="truncate font-mono text-quiet">= {{ g.expression }}</p>
      <select
        v-else
        class="field"
        :value="g.sensorId ?? ''"
        :disabled="busy"
        :aria-label="`Sensor of ${g.name}`"
        @change="name(g.role, ($event.target as HTMLSelectElement).value)"
      >
        <option value="">not named</option>
        <option v-for="s in choicesOf(g)" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select>
    </div>
    <MendChannel :channel="mended" :roles="gauges.roles" @close="mended = null" @mended="changed" />
    <ProblemNote :problem="problem" />
  </details>
</template>
