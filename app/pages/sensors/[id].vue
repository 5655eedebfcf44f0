<script setup lang="ts">
import { METRIC, sensorSpecificationOf, type Kind } from '@hypomet/core'
import type { SensorUse } from '~/types/api'

const id = Number(useRoute().params['id'])
const book = await useRegister('sensor', null, METRIC)
const row = computed(() => book.rows.value.find(r => r.id === id) ?? null)
if (!row.value) throw createError({ statusCode: 404, statusMessage: 'There is no such sensor.' })
useTrail().value = [{ name: 'Sensors', to: '/sensors' }, { name: book.nameOf(row.value) }]
useHead({ title: () => `${row.value ? book.nameOf(row.value) : 'Sensor'} · Hypomet` })
const units = useUnits('metric')
const api = useApi()
const { data: readings } = await useAsyncData(`readings-${id}`, () => api.get(`/api/sensors/${id}/readings`))
const kind = computed(() => row.value!['kind'] as Kind)
const uses = computed(() => row.value!['installed'] as SensorUse[])
const beyond = computed(() => row.value!['overRanged'] as { share: number; test: string } | null)
const today = localDay()
const overdue = computed(() => row.value!['calibrationDue'] !== null && String(row.value!['calibrationDue']) < today)
const specification = computed(() => sensorSpecificationOf(row.value!))
</script>

<template>
  <main v-if="row" class="mx-auto grid w-full max-w-[1500px] flex-1 grid-cols-[1fr_26rem] items-start gap-3 p-4">
    <RowPanel :book="book" :row="row" back="/sensors">
      <p v-if="overdue" class="mb-2 rounded-md bg-caution-ground px-2 py-1 text-sm text-caution">
        Its calibration was due on {{ day(String(row['calibrationDue'])) }}: the uncertainty it claims is not carried by
        a certificate. It stands open on the checklist of every test that uses it.
      </p>
      <p v-if="beyond" class="mb-2 rounded-md bg-caution-ground px-2 py-1 text-sm text-caution">
        It read {{ Math.round(100 * beyond.share) }} % of its range in “{{ beyond.test }}”, and has not been calibrated
        since.
      </p>
    </RowPanel>
    <div class="space-y-3">
      <section class="panel">
        <h2 class="mb-1">Where it is</h2>
        <ul v-if="uses.length > 0" class="text-sm">
          <li v-for="u in uses" :key="`${u.testId}${u.role}`">
            <NuxtLink :to="`/tests/${u.testId}/ready`">{{ u.title }}</NuxtLink>{{ ' ' }}
            <span class="text-quiet">as {{ u.role }}</span>
          </li>
        </ul>
        <p v-else class="text-sm text-quiet">
          Planned for no open test{{ row['place'] ? `; kept at ${row['place']}` : '' }}.
        </p>
      </section>
      <section class="panel"><AttachmentStrip :id="row.id" entity="sensor" title="Certificate and papers" /></section>
      <section class="panel">
        <h2 class="mb-1">What it read</h2>
        <table v-if="readings?.length" class="data">
          <thead>
            <tr>
              <th>Test</th>
              <th>On</th>
              <th class="number">Largest reading</th>
              <th class="number">Of range</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in readings" :key="`${r.datasetId}${r.channel}`">
              <td>
                <NuxtLink :to="`/records/${r.datasetId}`">{{ r.test }}</NuxtLink><span
                  class="block text-xs text-quiet"
                  >{{ r.channel }}</span
                >
              </td>
              <td class="whitespace-nowrap text-xs">{{ day(r.at) }}</td>
              <td class="number whitespace-nowrap">{{ units.show(r.peak, kind) }}</td>
              <td :class="['number', r.share > 1 ? 'font-semibold text-fail' : '']">
                {{ Math.round(100 * r.share) }} %
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="text-sm text-quiet">No reading of it is kept yet.</p>
        <p class="mt-1 text-xs text-quiet">
          As recorded, zero not taken off; full scale {{ units.show(specification.fullScale, kind) }}.
        </p>
      </section>
      <section class="panel">
        <HistoryList :id="row.id" :register="book.register" :version="row.version" :context="book.context.value" />
      </section>
    </div>
  </main>
</template>
