<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import type { ChannelView, Kind, QuantityInput, UnitPreference } from '@hypomet/core'
import type { SensorRow } from '~/types/api'

interface ChannelDraft {
  role: string
  label: string
  kind: string
  x?: unknown
  expected?: unknown
  sensorId: number | null
}

/** Channels of a plan with their sensors and the range check that follows. */
const channels = defineModel<ChannelDraft[]>({ required: true })
const props = defineProps<{ views: ChannelView[]; sensors: SensorRow[]; prefer: UnitPreference; fixed: boolean }>()
const units = { show: (v: number | null, kind: Kind, digits = 3) => useUnits('metric').show(v, kind, { prefer: props.prefer, digits }) }
const needed = ['load', 'deflection']
const words: Record<ChannelView['state'], string> = { fits: 'fits', 'low-range': 'too large a sensor', 'near-full-scale': 'near full scale', 'over-range': 'beyond full scale', 'no-sensor': 'no sensor' }

function add(kind: 'strain' | 'length'): void {
  let n = 1
  while (channels.value.some(c => c.role === `extra${n}`)) n++
  channels.value.push({ role: `extra${n}`, label: `Channel ${channels.value.length + 1}`, kind, ...(kind === 'strain' ? { x: { value: 0, unit: 'm' } } : {}), sensorId: null })
}
const bar = (v: ChannelView) => `${Math.min(100, 100 * (v.utilisation ?? 0))}%`
</script>

<template>
  <table class="data">
    <thead><tr><th>Channel</th><th class="w-24">At</th><th>Sensor</th><th class="number">Expected</th><th class="number">Full scale</th><th class="number">±U there</th><th>Range used</th><th><span class="sr-only">Remove</span></th></tr></thead>
    <tbody>
      <tr v-for="(c, i) in channels" :key="c.role">
        <td><input v-model.lazy="c.label" class="field border-transparent px-1 font-medium" :aria-label="`Name of ${c.role}`" :disabled="fixed"></td>
        <td><QuantityField v-if="c.kind === 'strain'" hide-label :label="`Place of ${c.label}, from the root`" kind="length" :prefer="prefer" :disabled="fixed" :model-value="(c.x as QuantityInput)" @update:model-value="c.x = $event" /></td>
        <td>
          <select v-model="c.sensorId" class="field min-w-44" :aria-label="`Sensor of ${c.label}`" :disabled="fixed">
            <option :value="null">none yet</option>
            <option v-for="s in sensors.filter(s => s.kind === c.kind)" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select>
        </td>
        <td class="number w-28">
          <QuantityField v-if="!fixed && !needed.includes(c.role) && c.kind === 'length'" hide-label :label="`Expected largest ${c.label}`" :kind="c.kind" :prefer="prefer" optional :model-value="(c.expected as QuantityInput)" @update:model-value="c.expected = $event ?? undefined" />
          <template v-else>{{ units.show(views[i]?.expectedPeak ?? null, (c.kind as Kind)) }}</template>
        </td>
        <td class="number">{{ units.show(views[i]?.fullScale ?? null, (c.kind as Kind)) }}</td>
        <td class="number">{{ units.show(views[i]?.U ?? null, (c.kind as Kind), 2) }}</td>
        <td>
          <span v-if="views[i]" class="flex items-center gap-2">
            <span class="relative block h-2 w-16 rounded bg-sunk" aria-hidden="true"><span :class="['absolute inset-y-0 left-0 rounded', views[i]!.state === 'fits' ? 'bg-accent' : 'bg-open']" :style="{ width: bar(views[i]!) }" /></span>
            <span :class="['whitespace-nowrap text-xs', views[i]!.state === 'fits' ? 'text-quiet' : 'font-semibold text-open']">{{ views[i]!.utilisation === null ? '' : `${Math.round(100 * views[i]!.utilisation!)} % · ` }}{{ words[views[i]!.state] }}</span>
          </span>
        </td>
        <td><button v-if="!fixed && !needed.includes(c.role)" type="button" class="button px-1" :aria-label="`Remove ${c.label}`" @click="channels.splice(i, 1)"><X class="size-3.5" aria-hidden="true" /></button></td>
      </tr>
    </tbody>
  </table>
  <div v-if="!fixed" class="mt-2 flex gap-2">
    <button type="button" class="button text-xs" @click="add('strain')"><Plus class="size-3.5" aria-hidden="true" />Strain channel</button>
    <button type="button" class="button text-xs" @click="add('length')"><Plus class="size-3.5" aria-hidden="true" />Displacement channel</button>
  </div>
</template>
