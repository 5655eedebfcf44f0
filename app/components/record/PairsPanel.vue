<script setup lang="ts">
import { Trash2 } from '@lucide/vue'
import type { QuantityInput } from '@hypomet/core'
import { quantityToSi } from '@hypomet/core'
import type { RecordChannel, RecordPage } from '~/types/api'

/** Channels that ought to agree: each pair is watched, and flagged where it parts. */
const props = defineProps<{
  recordId: number
  channels: RecordChannel[]
  pairs: RecordPage['pairs']
  system: 'metric' | 'imperial'
}>()
const emit = defineEmits<{ changed: [] }>()
const records = useRecordStore()
const { busy, problem, run } = useAction()
const { prefer, kindOf, spread } = useChannelUnits(() => props.system)
const a = ref<number | null>(null)
const b = ref<number | null>(null)
const tolerance = ref<QuantityInput | null>(null)
const name = (id: number) => {
  const c = props.channels.find(x => x.id === id)
  return c ? channelName(c) : '–'
}
const first = computed(() => props.channels.find(c => c.id === a.value) ?? null)
const partners = computed(() => props.channels.filter(c => c.id !== a.value && c.unit === first.value?.unit))
watch(first, () => {
  b.value = null
  tolerance.value = null
})
const kind = computed(() => (first.value && kindOf(first.value)) || 'any')
const si = (): number | null =>
  tolerance.value === null
    ? null
    : typeof tolerance.value === 'number'
      ? tolerance.value
      : kind.value === 'any'
        ? tolerance.value.value
        : quantityToSi(tolerance.value, kind.value)
const add = () =>
  run(async () => {
    await records.addPair(props.recordId, { a: a.value!, b: b.value!, tolerance: si() })
    a.value = b.value = null
    emit('changed')
  })
const remove = (id: number) =>
  run(async () => {
    await records.removePair(id)
    emit('changed')
  })
const state = (p: RecordPage['pairs'][number]) =>
  props.channels.find(c => c.id === p.a)?.health?.find(f => f.code === 'parted' && f.twin === p.b) ?? null
const shown = (p: RecordPage['pairs'][number]) => {
  const c = props.channels.find(x => x.id === p.a)
  return c ? spread(c, p.tolerance) : '–'
}
</script>

<template>
  <section class="panel">
    <h2 class="mb-2">Channels that ought to agree</h2>
    <table v-if="pairs.length > 0" class="data mb-2">
      <thead>
        <tr>
          <th>Channel</th>
          <th>Redundant channel</th>
          <th class="number">May differ by</th>
          <th>So far</th>
          <th><span class="sr-only">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in pairs" :key="p.id">
          <td>{{ name(p.a) }}</td>
          <td>{{ name(p.b) }}</td>
          <td class="number">{{ shown(p) }}</td>
          <td :class="state(p) ? 'text-open' : ''">
            {{ state(p) ? `disagrees from ${state(p)!.at?.toPrecision(4)} s` : 'agree throughout' }}
          </td>
          <td class="text-right">
            <button
              type="button"
              class="button px-1.5"
              :disabled="busy"
              :aria-label="`No longer compare ${name(p.a)} and ${name(p.b)}`"
              @click="remove(p.id)"
            >
              <Trash2 class="size-3.5" aria-hidden="true" />
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <form class="grid grid-cols-[1fr_1fr_11rem_auto] items-end gap-2" @submit.prevent="add">
      <ChannelPicker v-model="a" :channels="channels" label="Channel" />
      <ChannelPicker
        v-model="b"
        :channels="partners"
        label="Redundant channel"
        :disabled="first === null"
        :none="first && partners.length === 0 ? 'none of the same unit' : 'a few letters'"
      />
      <QuantityField v-model="tolerance" :kind="kind" :prefer="prefer" optional label="May differ by (else their U)" />
      <button class="button-main" :disabled="busy || a === null || b === null">Compare</button>
    </form>
    <ProblemNote :problem="problem" />
    <p class="mt-1 text-xs text-quiet">
      They part where the difference stays beyond what is allowed for five samples. Left empty, it is the combined
      expanded uncertainty of their sensors.
    </p>
  </section>
</template>
