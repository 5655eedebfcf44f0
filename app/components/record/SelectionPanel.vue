<script setup lang="ts">
import type { Figure } from '@hypomet/core'
import { tickText } from '~/composables/charts/niceTicks'
import type { RecordChannel, Selected } from '~/types/api'

/** Numbers of a stretch of a record, and its spectra where asked. */
const props = defineProps<{
  recordId: number
  channels: RecordChannel[]
  chosen: number[]
  selection: [number, number]
  system: 'metric' | 'imperial'
  step: number
}>()
const emit = defineEmits<{ zoom: []; drop: [] }>()
const records = useRecordStore()
const { busy, problem, run } = useAction()
const { prefer, show, spread } = useChannelUnits(() => props.system)
const selected = shallowRef<Selected[] | null>(null)
const look = (spectrum: boolean) =>
  run(async () => {
    selected.value = await records.select(props.recordId, {
      channels: props.chosen,
      from: props.selection[0],
      to: props.selection[1],
      spectrum,
    })
  })
watch(
  () => [props.selection, props.chosen],
  () => void look(false),
  { immediate: true },
)
const statistics = computed(() =>
  (selected.value ?? []).flatMap(s => {
    const c = props.channels.find(x => x.id === s.channel)
    return c
      ? [
          {
            ...s,
            c,
            name: channelName(c),
            meanText: show(c, s.mean),
            sdText: spread(c, s.sd),
            minText: show(c, s.min),
            maxText: show(c, s.max),
          },
        ]
      : []
  }),
)
const densityFigure = (name: string, s: { frequency: number[]; density: number[] }): Figure => ({
  x: { label: 'Frequency', kind: 'frequency' },
  y: { label: 'log₁₀ of density in SI', kind: 'ratio' },
  series: [{ name, style: 'measured', x: s.frequency, y: s.density.map(d => (d > 0 ? Math.log10(d) : null)) }],
  lines: [],
})
const spectra = computed(() =>
  statistics.value.flatMap(s =>
    s.spectrum && 'density' in s.spectrum ? [{ name: s.name, figure: densityFigure(s.name, s.spectrum) }] : [],
  ),
)
const refusals = computed(() =>
  statistics.value.flatMap(s => (s.spectrum && 'refused' in s.spectrum ? [`${s.name}: ${s.spectrum.refused}`] : [])),
)
</script>

<template>
  <section v-if="statistics.length > 0 || problem" class="panel">
    <div class="mb-1 flex items-center justify-between gap-2">
      <h2>Selection: {{ tickText(selection[0], step / 100) }} to {{ tickText(selection[1], step / 100) }} s</h2>
      <div class="flex gap-1.5">
        <button type="button" class="button text-xs" :disabled="busy" @click="look(true)">Spectrum</button
        ><button type="button" class="button text-xs" @click="emit('zoom')">Zoom to it</button
        ><button type="button" class="button text-xs" @click="emit('drop')">Clear selection</button>
      </div>
    </div>
    <ProblemNote :problem="problem" />
    <table class="data">
      <thead>
        <tr>
          <th>Channel</th>
          <th class="number">n</th>
          <th class="number">Mean</th>
          <th class="number">Standard deviation</th>
          <th class="number">Minimum</th>
          <th class="number">Maximum</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in statistics" :key="s.channel">
          <td>{{ s.name }}</td>
          <td class="number">{{ s.n }}</td>
          <td class="number">{{ s.meanText }}</td>
          <td class="number">{{ s.sdText }}</td>
          <td class="number">{{ s.minText }}</td>
          <td class="number">{{ s.maxText }}</td>
        </tr>
      </tbody>
    </table>
    <p v-for="r in refusals" :key="r" class="mt-1 text-sm text-open">{{ r }}</p>
    <FigureChart
      v-for="s in spectra"
      :key="s.name"
      class="mt-2"
      :figure="s.figure"
      :prefer="prefer"
      :name="`spectrum-${s.name}`"
      height="200px"
    />
  </section>
</template>
