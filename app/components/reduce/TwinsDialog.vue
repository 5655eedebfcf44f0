<script setup lang="ts">
import { formOf, type AnyFamily } from '@hypomet/core'

/** These settings on the other tests of the article that have a record, in one go. */
const props = defineProps<{ open: boolean; testId: number; family: AnyFamily; settings: Record<string, unknown> }>()
const emit = defineEmits<{ close: []; done: [] }>()
interface Twin {
  id: number
  title: string
  revision: string
  keptAt: string | null
}
interface Outcome {
  testId: number
  title: string
  problem: string | null
}
const reductions = useReductionStore()
const { busy, problem, run } = useAction()
const twins = ref<Twin[]>([])
const chosen = ref<number[]>([])
const outcome = ref<Outcome[] | null>(null)
watch(
  () => props.open,
  async isOpen => {
    if (!isOpen) return
    outcome.value = null
    twins.value = (await run(() => reductions.similar(props.testId))) ?? []
    chosen.value = twins.value.map(t => t.id)
  },
  { immediate: true },
)
/** What is of one record alone stays that of the twin. */
const own = computed(() => {
  const form = formOf(props.family.settings)
  return form.type === 'group'
    ? form.fields.filter(f => props.family.ownOfRecord.includes(f.key)).map(f => f.title.toLowerCase())
    : []
})
const apply = () =>
  run(async () => {
    outcome.value = await reductions.reduceSimilar(props.testId, {
      testIds: chosen.value,
      settings: props.settings,
    })
    emit('done')
  })
</script>

<template>
  <BaseDialog :open="open" title="Apply to similar tests" @close="emit('close')">
    <div class="space-y-3">
      <p v-if="twins.length === 0 && !busy" class="text-sm text-quiet">
        No other test of this article has a record yet.
      </p>
      <ul v-if="!outcome" class="space-y-1">
        <li v-for="t in twins" :key="t.id">
          <label class="flex items-center gap-2"
            ><input v-model="chosen" type="checkbox" :value="t.id" />{{ t.revision }} · {{ t.title }}
            <span class="text-xs text-quiet">{{
              t.keptAt ? `kept ${moment(t.keptAt)}, superseded by this` : 'not reduced yet'
            }}</span></label
          >
        </li>
      </ul>
      <ul v-else class="space-y-1 text-sm" role="status">
        <li v-for="o in outcome" :key="o.testId" :class="o.problem ? 'text-fail' : ''">
          <NuxtLink :to="`/tests/${o.testId}/reduce`">{{ o.title }}</NuxtLink>: {{ o.problem ?? 'reduced and kept' }}
        </li>
      </ul>
      <p v-if="!outcome && own.length > 0 && twins.length > 0" class="text-xs text-quiet">
        Each keeps its own: {{ own.join(', ') }}; where it has none they are detected again.
      </p>
      <ProblemNote :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">{{ outcome ? 'Close' : 'Cancel' }}</button><button
          v-if="!outcome"
          type="button"
          class="button-main"
          :disabled="busy || chosen.length === 0"
          @click="apply"
        >
          Reduce {{ chosen.length }} and keep
        </button>
      </div>
    </div>
  </BaseDialog>
</template>
