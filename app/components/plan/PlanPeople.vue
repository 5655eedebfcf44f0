<script setup lang="ts">
import { formOf, planFields, SIGN_ROLES, type HypometError, type UnitPreference, wordsOf } from '@hypomet/core'
import { setPart } from '~/composables/plan/setPart'
import type { PlanDraft } from '~/composables/plan/usePlanDraft'

/** Who does what, with which permits, who signs, and what counts as good at the rig. */
const draft = defineModel<PlanDraft>({ required: true })
defineProps<{ prefer: UnitPreference; fixed: boolean; problem: HypometError | null }>()
const people = formOf(planFields.people)
const permits = formOf(planFields.permits)
const ready = formOf(planFields.ready)
const signing = computed(() => (draft.value['signOff'] ?? ['test-lead', 'safety']) as string[])
const set = setPart(draft)
const toggle = (role: string, on: boolean) =>
  set(
    'signOff',
    SIGN_ROLES.filter(r => (r === role ? on : signing.value.includes(r))),
  )
</script>

<template>
  <fieldset class="grid grid-cols-3 gap-4" :disabled="fixed">
    <div class="space-y-3">
      <SettingsField
        :model-value="draft['people'] ?? []"
        :field="people"
        path="people"
        :prefer="prefer"
        :problem="problem"
        @update:model-value="set('people', $event)"
      />
      <div>
        <p class="label">The checklist is signed by</p>
        <div class="flex flex-wrap gap-x-4 gap-y-1">
          <label v-for="r in SIGN_ROLES" :key="r" class="flex items-center gap-1 text-sm"
            ><input
              type="checkbox"
              :checked="signing.includes(r)"
              @change="toggle(r, ($event.target as HTMLInputElement).checked)"
            />{{ wordsOf(r) }}</label
          >
        </div>
      </div>
    </div>
    <SettingsField
      :model-value="draft['permits'] ?? []"
      :field="permits"
      path="permits"
      :prefer="prefer"
      :problem="problem"
      @update:model-value="set('permits', $event)"
    />
    <SettingsField
      :model-value="draft['ready'] ?? {}"
      :field="{ ...ready, required: true }"
      path="ready"
      :prefer="prefer"
      :problem="problem"
      @update:model-value="set('ready', $event)"
    />
  </fieldset>
</template>
