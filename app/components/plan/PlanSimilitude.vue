<script setup lang="ts">
import { formatNumber, formOf, planFields, type HypometError, type PlanView, type UnitPreference } from '@hypomet/core'
import { setPart } from '~/composables/plan/setPart'
import type { PlanDraft } from '~/composables/plan/usePlanDraft'

/** The governing numbers of the test beside those of service, and what is not represented. */
const draft = defineModel<PlanDraft>({ required: true })
defineProps<{ view: PlanView; prefer: UnitPreference; fixed: boolean; problem: HypometError | null }>()
const form = { ...formOf(planFields.similitude), required: false }
const set = setPart(draft)
</script>

<template>
  <div class="grid grid-cols-[30rem_1fr] gap-4">
    <fieldset class="states" :disabled="fixed">
      <SettingsField
        :model-value="draft['similitude'] ?? null"
        :field="form"
        path="similitude"
        :prefer="prefer"
        :problem="problem"
        @update:model-value="set('similitude', $event)"
      />
    </fieldset>
    <table v-if="view.similitude.length > 0" class="data self-start">
      <thead>
        <tr>
          <th>Number</th>
          <th class="number">Test</th>
          <th class="number">Service</th>
          <th class="number">Test over service</th>
          <th>Represented</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in view.similitude" :key="r.name">
          <td>{{ r.name }}</td>
          <td class="number">{{ formatNumber(r.test, 3) }}</td>
          <td class="number">{{ formatNumber(r.service, 3) }}</td>
          <td class="number">{{ formatNumber(r.ratio, 3) }}</td>
          <td :class="r.within ? 'text-pass' : 'font-semibold text-fail'">
            {{ r.within ? 'yes' : 'no: outside 0.5–2' }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="text-sm text-quiet">
      Where test and service differ in speed, mass, size or medium: enter both, and what is not represented is said out
      loud, in SI.
    </p>
  </div>
</template>

<style scoped>
.states :deep(fieldset > div) {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem 1rem;
  border-left: 0;
  padding-left: 0;
}
.states :deep(fieldset > div > fieldset > div) {
  grid-template-columns: 1fr;
}
.states :deep(fieldset > div > *) {
  margin: 0;
}
</style>
