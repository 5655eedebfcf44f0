<script setup lang="ts">
import { METRIC } from '@hypomet/core'
import type { SensorUse } from '~/types/api'
import { registerWords } from '~/composables/register/registerWords'

useTrail().value = [{ name: 'Sensors' }]
useHead({ title: 'Sensors · Hypomet' })
const today = localDay()
const places = (row: Record<string, unknown>) =>
  [...new Set((row['installed'] as SensorUse[]).map(u => u.title))].join('; ')
</script>

<template>
  <main class="mx-auto w-full max-w-[1500px] flex-1 p-4">
    <RegisterBook id="sensor" :prefer="METRIC" :about="registerWords['sensor']!" :opens="row => `/sensors/${row.id}`">
      <template #mark="{ row }">
        <span
          v-if="row['calibrationDue'] && String(row['calibrationDue']) < today"
          class="mr-1 text-xs font-semibold text-fail"
          >overdue</span
        >
        <span v-if="row['overRanged']" class="mr-1 text-xs font-semibold text-fail">over range</span>
        <span v-if="places(row)" tabindex="0" class="mr-1 text-xs text-quiet" :data-hint="places(row)">planned</span>
      </template>
    </RegisterBook>
  </main>
</template>
