<script setup lang="ts">
import { Trash2 } from '@lucide/vue'
import type { Dependents, RecordPage } from '~/types/api'

/** Asks before a record goes, and says what rests on it. */
const props = defineProps<{ records: RecordPage['records'] }>()
const emit = defineEmits<{ gone: [wasMain: boolean] }>()
const recordStore = useRecordStore()
const { busy, problem, run } = useAction()
const asked = ref<number | null>(null)
const found = shallowRef<Dependents | null>(null)
const ask = (id: number) =>
  run(async () => {
    found.value = await recordStore.dependents(id)
    asked.value = id
  })
const remove = () =>
  run(async () => {
    const id = asked.value!
    await recordStore.remove(id)
    asked.value = null
    emit('gone', id === props.records[0]!.id)
  })
const parts = computed(() => {
  const f = found.value
  if (!f) return []
  return [
    `${f.channels} ${f.channels === 1 ? 'channel' : 'channels'} with their samples`,
    ...(f.derived.length > 0 ? [`derived: ${f.derived.join(', ')}`] : []),
    ...(f.pairs > 0 ? [`${f.pairs} ${f.pairs === 1 ? 'pair' : 'pairs'} of channels`] : []),
    ...(f.joined.length > 0 ? [`the records that join it: ${f.joined.join(', ')}`] : []),
    ...(f.runs > 0 ? ['the run that it is the record of, with its events'] : []),
  ]
})
</script>

<template>
  <span class="contents">
    <span class="self-center text-xs text-quiet">Delete</span>
    <button
      v-for="r in records"
      :key="r.id"
      type="button"
      class="button text-xs"
      :disabled="busy"
      :aria-label="`Delete ${r.name}`"
      @click="ask(r.id)"
    >
      <Trash2 class="size-3.5" aria-hidden="true" />{{ r.name }}
    </button>
    <BaseDialog :open="asked !== null" :title="`Delete ${found?.name ?? ''}?`" @close="asked = null">
      <template v-if="found">
        <template v-if="found.mayGo"
          ><p class="text-sm">With it go:</p>
          <ul class="my-1 list-disc pl-5 text-sm">
            <li v-for="p in parts" :key="p">{{ p }}</li>
          </ul>
          <p class="text-sm text-quiet">
            The original file stays in the store, by its hash; it can be imported again.
          </p></template
        >
        <p v-else-if="found.users.length > 0" class="text-sm text-open">
          It stays: {{ found.users.join(', ') }} {{ found.users.length === 1 ? 'is' : 'are' }} derived from its
          channels. Take {{ found.users.length === 1 ? 'that' : 'those' }} out first.
        </p>
        <p v-else class="text-sm text-open">
          It stays: {{ found.reductions }} kept {{ found.reductions === 1 ? 'result rests' : 'results rest' }} on it{{
            found.judgements > 0
              ? `, and ${found.judgements} ${found.judgements === 1 ? 'judgement' : 'judgements'} on them`
              : ''
          }}. They could no longer be recomputed.
        </p>
        <ProblemNote :problem="problem" />
        <div class="mt-4 flex justify-end gap-2">
          <button type="button" class="button" @click="asked = null">
            {{ found.mayGo ? 'Keep it' : 'Close' }}</button><button
            v-if="found.mayGo"
            type="button"
            class="button-main"
            :disabled="busy"
            @click="remove"
          >
            Delete the record
          </button>
        </div>
      </template>
    </BaseDialog>
  </span>
</template>
