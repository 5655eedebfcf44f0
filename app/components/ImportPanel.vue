<script setup lang="ts">
import { FileUp, Square } from '@lucide/vue'
import { findUnit, HypometError } from '@hypomet/core'
import type { FilePreview } from '~/types/api'

/** A logger's file: drop it, see what its columns are understood as, correct that, import. */
const { page, api, store } = useTest()
const { busy, problem, run } = useAction()
const { send, abort } = useUpload()
type Preview = FilePreview['preview']
const file = shallowRef<{ source: File; preview: Preview } | null>(null)
const mapping = reactive<Record<string, { column: string; unit: string }>>({})
const end = ref('ladder done')
const dragging = ref(false)
const progress = ref<{ share: number; doing: string } | null>(null)
const ends = [{ value: 'ladder done', label: 'The ladder was done, nothing failed' }, { value: 'article broke', label: 'The article failed' }, { value: 'fixture gave way', label: 'The fixture gave way' }, { value: 'aborted', label: 'It was stopped' }]

/** As much of a file as shows what it is. */
const HEAD = 256 * 1024
const look = (chosen: File | undefined) => chosen && run(async () => {
  file.value = null
  const { preview: atOnce } = await api.upload<{ preview: Preview | null }>(`/api/tests/${page.value.test.id}/preview`, new File([chosen.slice(0, HEAD)], chosen.name))
  const preview = atOnce ?? (await whole(chosen))
  for (const p of preview.planned) mapping[p.role] = { column: preview.guess[p.role]?.column ?? '', unit: preview.guess[p.role]?.unit ?? '' }
  file.value = { source: chosen, preview }
})
/** Kinds of file that show what they are only as a whole. */
async function whole(chosen: File): Promise<Preview> {
  try {
    const kept = await send<FilePreview>(`/api/tests/${page.value.test.id}/files`, chosen, share => (progress.value = { share, doing: `sending, ${Math.round(share * 100)} %` }))
    sentAlready = { file: chosen, kept }
    return kept.preview
  } finally {
    progress.value = null
  }
}
let sentAlready: { file: File; kept: FilePreview } | null = null
function drop(e: DragEvent): void {
  dragging.value = false
  void look(e.dataTransfer?.files[0])
}
// A file may be dropped anywhere on the page.
useEventListener('dragover', (e: DragEvent) => e.preventDefault())
useEventListener('drop', (e: DragEvent) => {
  if (e.defaultPrevented) return
  e.preventDefault()
  drop(e)
})
const columns = computed(() => file.value?.preview.columns ?? [])
const unitKnown = (unit: string) => unit === '' || findUnit(unit, 'gravity') !== null
const optional = (role: string) => !['t', 'load', 'deflection'].includes(role)
const complete = computed(() => Object.entries(mapping).every(([role, m]) => (m.column === '' ? optional(role) : m.unit !== '' && unitKnown(m.unit))))

const job = ref<number | null>(null)
const known = shallowRef<{ sha256: string; where: FilePreview['known'] } | null>(null)

/** Sends the file, then imports it; bytes that are here already are named first. */
const begin = () => run(async () => {
  const { source } = file.value!
  try {
    const sha256 = known.value?.sha256 ?? (await sent(source))
    if (sha256 === null) return
    const channels = Object.fromEntries(Object.entries(mapping).filter(([, m]) => m.column !== '').map(([role, m]) => [role, m]))
    const { jobId } = await api.post<{ jobId: number }>(`/api/tests/${page.value.test.id}/imports`, { sha256, fileName: source.name, channels, end: end.value })
    job.value = jobId
    await follow(jobId)
  } finally {
    progress.value = null
    job.value = null
  }
  known.value = null
  await store.refresh()
  await navigateTo(`/tests/${page.value.test.id}/reduce`)
})
/** Its hash; null where the same bytes were imported before, which is then asked about. */
async function sent(source: File): Promise<string | null> {
  const kept = sentAlready?.file === source ? sentAlready.kept : await send<FilePreview>(`/api/tests/${page.value.test.id}/files`, source, share => (progress.value = { share, doing: `sending, ${Math.round(share * 100)} %` }))
  if (kept.known.length === 0) return kept.sha256
  known.value = { sha256: kept.sha256, where: kept.known }
  return null
}
watch(file, () => (known.value = null))
function stop(): void {
  if (job.value === null) abort()
  else void api.post(`/api/jobs/${job.value}/stop`)
}

async function follow(jobId: number): Promise<void> {
  for (;;) {
    const state = await api.get<{ status: string; progress: number; doing: string; error: { code: string; message: string; place: object } | null }>(`/api/jobs/${jobId}`)
    progress.value = { share: state.progress, doing: state.doing }
    if (state.status === 'done') return
    if (state.status !== 'running') throw new HypometError(state.error!.code, state.error!.message, state.error!.place)
    await new Promise(resolve => setTimeout(resolve, 120))
  }
}
const further = computed(() => columns.value.filter(c => c.isNumeric && !Object.values(mapping).some(m => m.column === c.name)).length)
const size = (bytes: number) => (bytes < 1e6 ? `${(bytes / 1000).toFixed(0)} kB` : `${(bytes / 1e6).toFixed(1)} MB`)
</script>

<template>
  <section class="panel space-y-3">
    <h2>Import a logger’s file</h2>
    <label :class="['flex cursor-pointer flex-col items-center gap-1 rounded-lg border-2 border-dashed p-5 text-center focus-within:border-accent', dragging ? 'border-accent bg-accent-soft' : 'border-line']" @dragover.prevent="dragging = true" @dragleave="dragging = false" @drop.prevent="drop">
      <FileUp class="size-6 text-quiet" aria-hidden="true" />
      <span class="font-medium">Drop a logger’s file, or choose one</span>
      <span class="text-xs text-quiet">Tab, semicolon or comma; decimal point or comma; preamble, units row, gzip and UTF-16 are understood. Also workbooks (.xlsx), Parquet, NumPy (.npy, .npz), WAV and universal vibration files (58).</span>
      <input type="file" accept=".csv,.txt,.tsv,.dat,.gz,.xlsx,.parquet,.npy,.npz,.wav,.unv,.uff,text/*" class="sr-only" aria-label="Logger file" @change="look(($event.target as HTMLInputElement).files?.[0])">
    </label>
    <ProblemNote :problem="problem" />
    <template v-if="file">
      <p class="text-sm"><span class="font-medium">{{ file.source.name }}</span> <span class="text-quiet">{{ size(file.source.size) }} · {{ file.preview.about }}</span></p>
      <table class="data">
        <thead><tr><th>Channel</th><th>Column</th><th>Unit</th><th>First values</th></tr></thead>
        <tbody>
          <tr v-for="p in file.preview.planned" :key="p.role">
            <td class="font-medium">{{ p.label }}</td>
            <td><select v-model="mapping[p.role]!.column" class="field" :aria-label="`Column of ${p.label}`"><option value="">{{ optional(p.role) ? 'not in this file' : 'choose' }}</option><option v-for="c in columns" :key="c.name" :value="c.name">{{ c.name }}</option></select></td>
            <td><input v-model.trim="mapping[p.role]!.unit" class="field w-20" :aria-label="`Unit of ${p.label}`" :aria-invalid="!unitKnown(mapping[p.role]!.unit)"></td>
            <td class="max-w-40 truncate text-xs text-quiet">{{ columns.find(c => c.name === mapping[p.role]!.column)?.samples.join('  ') }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="further > 0" class="text-xs text-quiet">{{ further }} further {{ further === 1 ? 'column is' : 'columns are' }} kept beside them, to look at.</p>
      <label class="block"><span class="label">How the test ended</span><select v-model="end" class="field"><option v-for="e in ends" :key="e.value" :value="e.value">{{ e.label }}</option></select></label>
      <p v-if="known" class="text-sm text-open" role="status">The same bytes were imported before: {{ known.where.map(k => k.title).join(', ') }}.</p>
      <div class="flex items-center justify-end gap-3">
        <p v-if="progress" class="flex flex-1 items-center gap-2 text-sm text-quiet" role="status"><progress :value="progress.share" class="h-2 w-32" :aria-label="progress.doing" />{{ progress.doing }}</p>
        <button v-if="progress" type="button" class="button" @click="stop"><Square class="size-3.5" aria-hidden="true" />Stop</button>
        <button type="button" class="button-main" :disabled="busy || !complete" @click="begin">{{ known ? 'Import again' : 'Import' }}</button>
      </div>
    </template>
  </section>
</template>
