<script setup lang="ts">
/** What is seen of targets as channels of the record, like all others: with the fixture's motion off, along an axis. */
const props = defineProps<{
  datasetId: number
  /** Of the component that is shown. */
  component: string
  targets: readonly { name: string; expression: string | null }[]
  span: { from: number; to: number }
}>()
const records = useRecordStore()
const { busy, problem, run } = useAction()
const which = ref('')
const kept = ref<string[]>([])
const chosen = computed(() => props.targets.filter(p => which.value === '' || p.name === which.value))
const isPossible = computed(() => chosen.value.length > 0 && chosen.value.every(p => p.expression !== null))
const nameOf = (target: string) => `${target} ${props.component.toLowerCase()}`
const keep = () =>
  run(async () => {
    kept.value = []
    for (const { name, expression } of chosen.value) {
      await records.derive(props.datasetId, {
        expression: expression!,
        width: 200,
        ...props.span,
        name: nameOf(name),
        role: null,
      })
      kept.value = [...kept.value, nameOf(name)]
    }
  })
</script>

<template>
  <section class="panel space-y-2 text-sm">
    <h2>As channels</h2>
    <p class="text-xs text-quiet">
      {{ component }} of a target, the fixture’s motion off, becomes a channel of the record: for steps, limits and
      results of one’s own.
    </p>
    <div class="flex gap-2">
      <select v-model="which" class="field min-w-0" aria-label="Targets to keep">
        <option value="">all {{ targets.length }}</option>
        <option v-for="p in targets" :key="p.name">{{ p.name }}</option></select
      ><button type="button" class="button whitespace-nowrap" :disabled="busy || !isPossible" @click="keep">
        Keep
      </button>
    </div>
    <p v-if="!isPossible && targets.length > 0" class="text-xs text-quiet">
      One direction is kept at a time, of targets that have columns of their own.
    </p>
    <ProblemNote :problem="problem" />
    <p v-if="kept.length > 0" class="text-xs" role="status">
      Kept: {{ kept.length === 1 ? kept[0] : `${kept.length} channels` }}.
      <NuxtLink :to="`/records/${datasetId}`" class="underline">To the record</NuxtLink>
    </p>
  </section>
</template>
