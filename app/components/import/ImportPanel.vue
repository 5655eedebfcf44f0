<script setup lang="ts">
import { FileUp, Square } from '@lucide/vue'
import { findUnit, formatQuantity, readStamp, rolesOfPlan } from '@hypomet/core'
import {
  channelsToSend,
  FILE_HEAD,
  guessedMapping,
  mappingProblem,
  type MappedColumn,
} from '~/composables/import/importMapping'
import { brokeOf, RUN_ENDS, type RunEnd } from '~/composables/run/runEnds'
import type { FilePreview } from '~/types/api'
import type { ClockSaid } from '~/composables/import/clockSaid'
import type { Said } from './DialectFields.vue'

/**
 * A logger's file: drop it, see what it is understood as, correct that, import: as a run, or as more channels of one.
 */
const { page, store } = useTest()
const { busy, problem, run } = useAction()
const importing = useImportingStore()
type Preview = FilePreview['preview']
const file = shallowRef<{ source: File; preview: Preview; said: Said } | null>(null)
const mapping = ref<Record<string, MappedColumn>>({})
const rate = ref('')
const repair = reactive<ClockSaid>({ repeats: '', jumps: '' })
/** Many cells that are no numbers may be gaps: said after it was asked. */
const lost = ref(false)
/** The column that says of which target or channel a row is; empty where a row is a time. */
const tall = ref('')
const end = ref<RunEnd>(RUN_ENDS[0].value)
const broke = reactive({ mode: '', place: '' })
const sending = ref<{ share: number; text: string } | null>(null)
const { doing, follow, stop: stopJob } = useJob()
const progress = computed(() => doing.value ?? sending.value)
const testId = computed(() => page.value.test.id)

/** Channels that the test's records hold already: a file that joins them brings others. */
const mainRecord = computed(() => page.value.datasets.find(d => d.joinsId === null) ?? null)
const held = computed(() => {
  const main = mainRecord.value
  if (!main) return []
  const mapped = page.value.datasets
    .filter(d => d.id === main.id || d.joinsId === main.id)
    .flatMap(d => Object.keys(d.channelMap ?? {}))
  return main.source === 'rig' ? (page.value.view?.channels.map(c => c.role) ?? []) : mapped
})
const joins = ref(false)
const clock = ref('0')
function map(preview: Preview): void {
  const guessed = guessedMapping(preview, joins.value ? held.value : [])
  // What rows of several targets become has names of its own: roles are given afterwards.
  const { t } = guessed
  mapping.value = tall.value !== '' && t ? { t } : guessed
}
watch([joins, tall], () => file.value && map(file.value.preview))

/** What the plan works out from others. */
const derived = computed(() => (page.value.view?.channels ?? []).filter(c => c.expression !== null).map(c => c.role))
const needed = computed(() =>
  Object.entries(rolesOfPlan(page.value.test.family, page.value.test.plan)).filter(
    ([role, r]) => role !== '*' && role !== 't' && !r.optional && !derived.value.includes(role),
  ),
)

const LOGGER_FILES =
  '.csv,.txt,.tsv,.dat,.gz,.zip,.json,.ndjson,.jsonl,.xlsx,.ods,.parquet,.npy,.npz,.wav,.unv,.uff,text/*'
const look = (chosen: File) =>
  run(async () => {
    file.value = null
    const preview = await seen(chosen, {})
    joins.value =
      mainRecord.value !== null &&
      (preview.planned.some(p => p.role !== 't' && !held.value.includes(p.role)) ||
        needed.value.some(([role]) => !preview.guess[role]))
    take(chosen, preview, {})
  })
const correct = (said: Said) => run(async () => take(file.value!.source, await seen(file.value!.source, said), said))
function take(source: File, preview: Preview, said: Said): void {
  tall.value = preview.tall?.proposed ?? ''
  map(preview)
  file.value = { source, preview, said }
  furtherUnits.value = {}
  lost.value = false
}
/** From the file's first bytes, or from the whole of it where those do not tell. */
async function seen(chosen: File, said: Said): Promise<Preview> {
  const stated = Object.entries(said).flatMap(([k, v]) => (v === undefined ? [] : [[k, String(v)] as const]))
  if (sentAlready?.file === chosen)
    return (await importing.look(testId.value, { sha256: sentAlready.kept.sha256, ...said })).preview
  const { preview } = await importing.preview(
    testId.value,
    new File([chosen.slice(0, FILE_HEAD)], chosen.name),
    Object.fromEntries(stated),
  )
  return preview ?? (await kept(chosen)).preview
}
async function kept(chosen: File): Promise<FilePreview> {
  if (sentAlready?.file === chosen) return sentAlready.kept
  try {
    const answer = await importing.send(
      testId.value,
      chosen,
      share => (sending.value = { share, text: `sending, ${Math.round(share * 100)} %` }),
    )
    sentAlready = { file: chosen, kept: answer }
    return answer
  } finally {
    sending.value = null
  }
}
let sentAlready: { file: File; kept: FilePreview } | null = null
const dropped = useDroppedFile()
useShownFile(look)
const clockShift = computed(() => typedNumber(clock.value))
const openNumber = computed(() => file.value?.preview.numbers?.open ?? null)
const openDate = computed(() => file.value?.preview.openDates?.[mapping.value['t']?.column ?? ''] ?? null)
const unready = computed(
  () =>
    (openNumber.value ? `“${openNumber.value.text}” may be two numbers: say which.` : '') ||
    (openDate.value ? `“${openDate.value}” may be two days: say which number is the day.` : '') ||
    mappingProblem(mapping.value, typedNumber(rate.value), file.value?.preview.columns) ||
    (joins.value && !Number.isFinite(clockShift.value) ? 'The clock is set by a number of seconds.' : ''),
)
/** What reductions need and neither this file nor another brings. */
const lacking = computed(() => {
  const there = [
    ...Object.entries(mapping.value)
      .filter(([, m]) => m.column !== '' || m.open)
      .map(([role]) => role),
    ...(joins.value ? held.value : []),
  ]
  return needed.value.filter(([role]) => !there.includes(role)).map(([, r]) => r.label.toLowerCase())
})

const known = shallowRef<FilePreview['known']>([])

/** Sends the file, then imports it; bytes that are here already are named first. */
const begin = () =>
  run(async () => {
    const { source, preview, said } = file.value!
    const { sha256, known: before } = await kept(source)
    if (known.value.length === 0 && before.length > 0) return void (known.value = before)
    const reading = {
      ...(preview.delimiter === undefined ? {} : { delimiter: preview.delimiter }),
      ...(preview.headerRow === undefined ? {} : { headerRow: preview.headerRow }),
      ...(said.sheet === undefined ? {} : { sheet: said.sheet }),
      ...(preview.numbers?.style ? { numbers: preview.numbers.style } : {}),
      ...(mapping.value['t']!.column === '' && Number.isFinite(typedNumber(rate.value))
        ? { rate: typedNumber(rate.value) }
        : {}),
      ...(said.dates ? { dates: said.dates } : {}),
      ...(tall.value === '' ? {} : { tall: tall.value }),
      ...(lost.value ? { lost: 'gaps' as const } : {}),
      ...(repair.repeats ? { repeats: repair.repeats } : {}),
      ...(repair.jumps ? { jumps: repair.jumps } : {}),
      ...(Object.keys(furtherUnits.value).length > 0 ? { units: furtherUnits.value } : {}),
    }
    const { jobId } = await importing.start(testId.value, {
      sha256,
      fileName: source.name,
      channels: channelsToSend(mapping.value),
      reading,
      end: end.value,
      broke: brokeOf(end.value, broke),
      ...(joins.value ? { joins: mainRecord.value!.id, clockOffset: clockShift.value } : {}),
    })
    await follow(jobId)
    dropped.done()
    known.value = []
    const joined = joins.value
    await store.refresh()
    await navigateTo(joined ? `/records/${mainRecord.value!.id}` : `/tests/${page.value.test.id}/reduce`)
  })
watch(file, () => (known.value = []))
function stop(): void {
  if (doing.value === null) importing.abort()
  else stopJob()
}
const further = computed(() => {
  const used = new Set(Object.values(mapping.value).map(m => m.column))
  return file.value?.preview.columns.filter(c => c.isNumeric && c.name !== tall.value && !used.has(c.name)) ?? []
})
const furtherUnits = ref<Record<string, string>>({})
/** As the first stamps have it. */
const seenRate = computed(() => {
  const time = mapping.value['t']
  const samples = file.value?.preview.columns.find(c => c.name === time?.column)?.samples ?? []
  const unit = time && findUnit(time.unit)
  const seconds = samples.map(s => {
    const stamp = readStamp(s, file.value?.said.dates ?? 'day-first')
    return stamp ? stamp.whole + stamp.fraction : (typedNumber(s) * (unit?.multiply ?? NaN)) / (unit?.divide ?? 1)
  })
  const interval = (seconds.at(-1)! - seconds[0]!) / (seconds.length - 1)
  return interval > 0 ? formatQuantity(1 / interval, 'frequency', { digits: 3 }) : ''
})
</script>

<template>
  <section class="panel space-y-3">
    <h2>Import a logger’s file</h2>
    <FilePicker
      v-slot="{ over }"
      label="Logger file"
      :accept="LOGGER_FILES"
      class="block rounded-lg text-center"
      @files="dropped.bring($event[0]!)"
    >
      <span
        :class="[
          'flex flex-col items-center gap-1 rounded-lg border-2 border-dashed',
          file ? 'p-2' : 'p-5',
          over ? 'border-accent bg-accent-soft' : 'border-line',
        ]"
      >
        <FileUp v-if="!file" class="size-6 text-quiet" aria-hidden="true" />
        <span class="font-medium">{{
          file ? 'Drop or choose another file' : 'Drop a logger’s file, or choose one'
        }}</span>
        <span v-if="!file" class="text-xs text-quiet"
          >Text in any dialect, packed (.gz, .zip) and UTF-16 too; JSON; workbooks (.xlsx, .ods), Parquet, NumPy (.npy,
          .npz), WAV and universal vibration files (58). Up to 16 GB and 20,000 columns; files other than text up to 1
          GB.</span
        >
      </span>
    </FilePicker>
    <ProblemNote :problem="problem" />
    <div v-if="problem?.code === 'time-order' || repair.repeats || repair.jumps" class="flex flex-wrap gap-3">
      <ClockRepairFields v-model:repeats="repair.repeats" v-model:jumps="repair.jumps" />
    </div>
    <label v-if="problem?.code === 'cells-lost' || lost" class="flex items-center gap-2 text-sm"
      ><input v-model="lost" type="checkbox" />Cells that are no numbers are gaps: import the rest</label
    >
    <template v-if="file">
      <p class="text-sm">
        <span class="font-medium">{{ file.source.name }}</span>{{ ' ' }}
        <span class="text-quiet"
          >{{ bytesText(file.source.size) }} · {{ file.preview.about
          }}{{ seenRate ? ` · about ${seenRate}` : '' }}</span
        >
      </p>
      <DialectFields :preview="file.preview" :said="file.said" :clock="mapping['t']?.column" @said="correct" />
      <label v-if="file.preview.tall" class="flex flex-wrap items-baseline gap-x-2"
        ><span class="label">A row is</span
        ><select v-model="tall" class="field w-auto">
          <option value="">one time</option>
          <option v-for="c in file.preview.tall.columns" :key="c" :value="c">one “{{ c }}” at a time</option></select
        ><span v-if="tall" class="text-xs text-quiet"
          >Each becomes channels of its own, over the times that all share; what reductions read is named
          afterwards.</span
        ></label
      >
      <MappingTable :preview="file.preview" :mapping="mapping" />
      <label v-if="mapping.t?.column === ''" class="block"
        ><span class="label">Sampled at, Hz{{ mapping.t.isOptional ? ' (empty where rows have no clock)' : '' }}</span
        ><input v-model="rate" class="field w-28" inputmode="decimal"
      /></label>
      <FurtherColumns
        v-if="further.length > 0"
        :columns="further"
        :units="furtherUnits"
        @unit="(column, unit) => (furtherUnits[column] = unit)"
      />
      <div class="flex flex-wrap items-end gap-3">
        <label v-if="mainRecord"
          ><span class="label">This file is</span
          ><select v-model="joins" class="field">
            <option :value="true">more channels for {{ mainRecord.name }}</option>
            <option :value="false">a new run of this test</option>
          </select></label
        >
        <label v-if="joins"
          ><span class="label">Its clock, moved by, s</span
          ><input v-model="clock" class="field w-24" inputmode="decimal"
        /></label>
        <EndFields
          v-if="!joins"
          v-model="end"
          v-model:mode="broke.mode"
          v-model:place="broke.place"
          label="How the test ended"
        />
      </div>
      <p v-if="joins" class="text-xs text-quiet">
        Clocks can be brought together on the record’s page: by an event that both saw, or by what both recorded.
      </p>
      <p v-if="lacking.length > 0" class="text-sm text-open">
        {{ lacking.join(' and ') }}: needed by the reduction, still to come from another file.
      </p>
      <p v-if="known.length > 0" class="text-sm text-open" role="status">
        The same bytes were imported before: {{ known.map(k => k.title).join(', ') }}.
      </p>
      <div class="flex items-center justify-end gap-3">
        <p v-if="progress" class="flex flex-1 items-center gap-2 text-sm text-quiet" role="status">
          <progress :value="progress.share" class="h-2 w-32" :aria-label="progress.text" />{{ progress.text }}
        </p>
        <p v-else-if="unready" class="flex-1 text-sm text-quiet">{{ unready }}</p>
        <button v-if="progress" type="button" class="button" @click="stop">
          <Square class="size-3.5" aria-hidden="true" />Stop
        </button>
        <button type="button" class="button-main" :disabled="busy || unready !== ''" @click="begin">
          {{ known.length > 0 ? 'Import again' : 'Import' }}
        </button>
      </div>
    </template>
  </section>
</template>
