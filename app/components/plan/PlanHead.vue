<script setup lang="ts">
import { BadgeCheck, FilePlus2, History, ListStart } from '@lucide/vue'
import type { Finding } from '@hypomet/core'
import type { PlanDraft } from '~/composables/plan/usePlanDraft'

/** Which version of the plan this is, whether it stands, and what is still against it. */
const props = defineProps<{ status: string; findings: Finding[]; edit: () => number }>()
const emit = defineEmits<{
  start: [plan: PlanDraft]
  show: [path: string]
  confirm: [finding: Finding]
  released: []
}>()
const { page, store } = useTest()
const { busy, problem, run } = useAction()
const dialog = ref<'version' | 'start' | 'history' | null>(null)
const reason = ref('')
const t = computed(() => page.value.test)
const ran = computed(() => page.value.runs.length > 0)
const stops = computed(() => props.findings.filter(f => f.severity === 'stop'))
const warns = computed(() => props.findings.filter(f => f.severity === 'warn'))
const release = () =>
  run(async () => {
    await store.releasePlan(props.edit())
    emit('released')
  })
const begin = () =>
  run(async () => {
    await store.newPlanVersion(reason.value)
    dialog.value = null
  })

function askReason(): void {
  dialog.value = 'version'
  reason.value = ''
}
function startFrom(earlier: PlanDraft): void {
  emit('start', earlier)
  dialog.value = null
}
</script>

<template>
  <section class="panel py-2" aria-label="Plan">
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
      <p class="flex items-center gap-1.5 font-semibold">
        <BadgeCheck v-if="t.planState === 'released'" class="size-4 text-pass" aria-hidden="true" />Plan, version
        {{ t.planNumber }} · {{ ran ? 'run' : t.planState === 'released' ? 'released' : 'draft' }}
      </p>
      <p v-if="t.planReason" class="text-sm text-quiet">{{ t.planReason }}</p>
      <span v-if="t.planState === 'draft' && !ran" class="text-xs text-quiet" role="status">{{ status }}</span>
      <div class="ml-auto flex gap-1 text-sm">
        <button v-if="page.versions.length > 0" type="button" class="button" @click="dialog = 'history'">
          <History class="size-3.5" aria-hidden="true" />{{ page.versions.length }} released
        </button>
        <template v-if="!ran && t.planState === 'draft'">
          <button type="button" class="button" @click="dialog = 'start'">
            <ListStart class="size-3.5" aria-hidden="true" />Start from …
          </button>
          <button
            type="button"
            class="button-main"
            :disabled="busy || stops.length > 0 || status !== 'saved'"
            :data-hint="stops.length > 0 ? 'Something still stands against it' : ''"
            @click="release"
          >
            <BadgeCheck class="size-4" aria-hidden="true" />Release
          </button>
        </template>
        <button v-else-if="!ran" type="button" class="button" @click="askReason()">
          <FilePlus2 class="size-3.5" aria-hidden="true" />New version …
        </button>
        <NuxtLink v-if="t.planState === 'released' && !ran" :to="`/tests/${t.id}/ready`" class="button-main"
          >To the checklist</NuxtLink
        >
      </div>
    </div>
    <ul
      v-if="findings.length > 0 && !ran"
      class="mt-1 max-h-24 space-y-0.5 overflow-y-auto text-sm"
      tabindex="0"
      aria-label="Errors to fix"
    >
      <li v-for="f in [...stops, ...warns]" :key="f.path + f.code + f.message" :data-finding="f.code">
        <button type="button" class="text-left hover:underline" @click="emit('show', f.path)">
          <span :class="['font-semibold', f.severity === 'stop' ? 'text-fail' : 'text-open']">{{
            f.severity === 'stop' ? 'Required' : 'Check'
          }}</span>
          {{ f.message }} <span class="text-quiet">{{ f.mend }}</span>
        </button>
        <button
          v-if="['example-values', 'design-derived'].includes(f.code)"
          type="button"
          class="button ml-1 px-1.5 py-0 text-xs"
          @click="emit('confirm', f)"
        >
          It is right
        </button>
      </li>
    </ul>
    <ProblemNote class="mt-1" :problem="problem" />
    <StartFromDialog :open="dialog === 'start'" @close="dialog = null" @take="startFrom" />
    <PlanHistoryDialog :open="dialog === 'history'" @close="dialog = null" />
    <BaseDialog
      :open="dialog === 'version'"
      title="New version of the plan"
      :description="`Version ${t.planNumber} stays as it was released. The checklist asks for its signatures again.`"
      @close="dialog = null"
    >
      <form class="space-y-3" @submit.prevent="begin">
        <label class="block"
          ><span class="label">Why it changes</span
          ><input
            v-model="reason"
            class="field"
            placeholder="Clamp arrives a week late; loaded at three stations instead"
        /></label>
        <div class="flex justify-end gap-2">
          <button type="button" class="button" @click="dialog = null">Leave it</button
          ><button class="button-main" :disabled="busy || reason.trim() === ''">
            Begin version {{ t.planNumber + 1 }}
          </button>
        </div>
      </form>
    </BaseDialog>
  </section>
</template>
