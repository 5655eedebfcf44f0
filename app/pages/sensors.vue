<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { METRIC, type Kind } from '@hypomet/core'
import type { SensorRow } from '~/types/api'

useTrail().value = [{ name: 'Sensors' }]
useHead({ title: 'Sensors · Hypomet' })
const api = useApi()
const { data: sensors, refresh } = await useAsyncData('sensors', () => api.get<SensorRow[]>('/api/sensors'))
const adding = ref(false)
const units = useUnits('metric')
const today = new Date().toISOString().slice(0, 10)
const entered = (s: SensorRow, key: string): string => {
  const q = s.specification[key] as { value: number; unit: string } | number | undefined
  return q === undefined ? '–' : typeof q === 'number' ? units.show(q, s.kind as Kind) : `${q.value} ${q.unit}`
}
const share = (v: number | undefined) => (v === undefined ? '–' : `${(100 * v).toFixed(2)} %`)
</script>

<template>
  <main class="mx-auto w-full max-w-6xl flex-1 space-y-4 p-4">
    <div class="flex items-center justify-between"><h1>Sensors</h1><button type="button" class="button-main" @click="adding = true"><Plus class="size-4" aria-hidden="true" />New sensor</button></div>
    <EmptyState v-if="!sensors?.length" title="No sensors yet" text="A sensor’s range and data sheet give the range check at planning and the uncertainty of every result." action="Add the first sensor" @act="adding = true" />
    <section v-else class="panel">
      <table class="data">
        <thead><tr><th>Sensor</th><th>Measures</th><th class="number">Full scale</th><th class="number">Linearity</th><th class="number">Hysteresis</th><th class="number">Repeatability</th><th>Calibration due</th></tr></thead>
        <tbody>
          <tr v-for="s in sensors" :key="s.id">
            <td class="font-medium">{{ s.name }}</td><td>{{ s.kind === 'length' ? 'displacement' : s.kind }}</td><td class="number">{{ entered(s, 'fullScale') }}</td>
            <td class="number">{{ share(s.si.linearity) }}</td><td class="number">{{ share(s.si.hysteresis) }}</td><td class="number">{{ share(s.si.repeatability) }}</td>
            <td :class="s.calibrationDue && s.calibrationDue < today ? 'font-semibold text-fail' : ''">{{ s.calibrationDue ? day(s.calibrationDue) : '–' }}<template v-if="s.calibrationDue && s.calibrationDue < today"> overdue</template></td>
          </tr>
        </tbody>
      </table>
      <p class="mt-2 text-xs text-quiet">Linearity, hysteresis and repeatability are ± shares of full scale.</p>
    </section>
    <SensorDialog :open="adding" :prefer="METRIC" @close="adding = false" @saved="refresh()" />
  </main>
</template>
