<script setup lang="ts">
import type { ClockSaid } from '~/composables/import/clockSaid'
import type { RecordPage, TakenAnew } from '~/types/api'

/** A file read again with other words about it: which column is its clock, what of stamps that repeat or jump. */
const props = defineProps<{ record: RecordPage['records'][number]; columns: string[] }>()
const emit = defineEmits<{ done: [what: TakenAnew] }>()
const records = useRecordStore()
const { busy, problem, run } = useAction()
const { doing, follow } = useJob()
const now = computed(() => props.record.reading ?? {})
const clock = computed(() => props.record.clock)
const form = reactive<
  ClockSaid & Record<'column' | 'unit' | 'rate' | 'headerRow', string> & { numbers: '' | 'point' | 'comma' }
>({
  column: clock.value?.column ?? '',
  unit: clock.value?.unit ?? 's',
  rate: now.value.rate === undefined ? '' : String(now.value.rate),
  repeats: now.value.repeats ?? '',
  jumps: now.value.jumps ?? '',
  headerRow: now.value.headerRow === undefined ? '' : String(now.value.headerRow),
  numbers: now.value.numbers ?? '',
})
const lost = ref(false)
const rate = computed(() => typedNumber(form.rate))
const isWhole = computed(() => form.column !== '' || rate.value > 0)
const read = () =>
  run(async () => {
    const { rate: _, repeats: __, jumps: ___, numbers: ____, headerRow: _____, ...rest } = now.value
    const { jobId } = await records.readAgain(props.record.id, {
      reading: {
        ...rest,
        ...(form.column === '' ? { rate: rate.value } : {}),
        ...(form.repeats ? { repeats: form.repeats } : {}),
        ...(form.jumps ? { jumps: form.jumps } : {}),
        ...(/^\d+$/.test(form.headerRow) ? { headerRow: Number(form.headerRow) } : {}),
        ...(form.numbers ? { numbers: form.numbers } : {}),
        ...(lost.value ? { lost: 'gaps' as const } : {}),
      },
      clock: form.column === '' ? null : { column: form.column, unit: form.unit },
    })
    emit('done', await follow<TakenAnew>(jobId))
  })
</script>

<template>
  <section class="panel" aria-label="Read the file again">
    <h2>Read the file again</h2>
    <p class="mb-2 text-sm text-quiet">
      The original of {{ record.name }} is kept: it is read anew, and what rests on it is worked out anew. Units, signs
      and roles that were said stay.
    </p>
    <form class="flex flex-wrap items-end gap-3" @submit.prevent="read">
      <label
        ><span class="label">Column of time</span
        ><select v-model="form.column" class="field">
          <option value="">none: a fixed rate</option>
          <option v-if="clock && !columns.includes(clock.column)" :value="clock.column">{{ clock.column }}</option>
          <option v-for="c in columns" :key="c" :value="c">{{ c }}</option>
        </select></label
      >
      <label v-if="form.column !== ''"
        ><span class="label">in</span><input v-model.trim="form.unit" class="field w-16" aria-label="Unit of time"
      /></label>
      <label v-else
        ><span class="label">Sampled at, Hz</span><input v-model="form.rate" class="field w-24" inputmode="decimal"
      /></label>
      <ClockRepairFields v-model:repeats="form.repeats" v-model:jumps="form.jumps" />
      <template v-if="now.delimiter !== undefined">
        <label
          ><span class="label">Header in line</span
          ><input v-model="form.headerRow" class="field w-16" inputmode="numeric"
        /></label>
        <label
          ><span class="label">Numbers</span
          ><select v-model="form.numbers" class="field">
            <option value="">as found</option>
            <option value="point">written 1,234.5</option>
            <option value="comma">written 1.234,5</option>
          </select></label
        >
      </template>
      <button class="button-main" :disabled="busy || !isWhole">
        {{ doing ? doing.text : busy ? 'Reading …' : 'Read again' }}
      </button>
    </form>
    <ProblemNote :problem="problem" />
    <label v-if="problem?.code === 'cells-lost' || lost" class="flex items-center gap-2 text-sm"
      ><input v-model="lost" type="checkbox" />Cells that are no numbers are gaps: read the rest</label
    >
  </section>
</template>
