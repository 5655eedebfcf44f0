<script setup lang="ts">
import { registerWords } from '~/composables/register/registerWords'

useTrail().value = [{ name: 'Lessons' }]
useHead({ title: 'Lessons · Hypomet' })
const n = (row: Record<string, unknown>, key: string) => Number(row[key] ?? 0)
</script>

<template>
  <main class="mx-auto w-full max-w-[1500px] flex-1 p-4">
    <RegisterBook id="lesson" :about="registerWords['lesson']!" :opens="row => `/lessons/${row.id}`">
      <template #mark="{ row }">
        <span class="mr-2 inline-block w-40 whitespace-normal text-left text-xs text-quiet"
          ><template v-if="n(row, 'fired') === 0">never fired</template
          ><template v-else
            >fired {{ n(row, 'fired') }}×: {{ n(row, 'applied') }} applied, {{ n(row, 'riskAccepted') }} at risk<span
              v-if="n(row, 'unanswered') > 0"
              class="font-semibold text-open"
              >, {{ n(row, 'unanswered') }} unanswered</span
            ></template
          ></span
        >
      </template>
    </RegisterBook>
  </main>
</template>
