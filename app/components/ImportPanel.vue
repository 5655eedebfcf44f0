<script setup lang="ts">
import { FileUp } from '@lucide/vue'
import { findUnit, HypometError } from '@hypomet/core'
import type { FilePreview } from '~/types/api'

/** A logger's file: drop it, see what its columns are understood as, correct that, import. */
const { page, api, store } = useTest()
const { busy, problem, run } = useAction()
const file = ref<FilePreview | null>(null)
const mapping = reactive<Record<string, { column: string; unit: string }>>({})
const end = ref('ladder done')
const dragging = ref(false)
const progress = ref<{ share: number; doing: string } | null>(null)
const ends = [{ value: 'ladder done', label: 'The ladder was done, nothing failed' }, { value: 'article broke', label: 'The article failed' }, { value: 'fixture gave way', label: 'The fixture gave way' }, { value: 'aborted', label: 'It was stopped' }]

const look = (chosen: File | undefined) => chosen && run(async () => {
  file.value = null
  const preview = await api.upload<FilePreview>(`/api/tests/${page.value.test.id}/files`, chosen)
  for (const p of preview.preview.planned) mapping[p.role] = { column: preview.preview.guess[p.role]?.column ?? '', unit: preview.preview.guess[p.role]?.unit ?? '' }
  file.value = preview
})
function drop(e: DragEvent): void {
  dragging.value = false
  void look(e.dataTransfer?.files[0])
}
const columns = computed(() => file.value?.preview.columns ?? [])
const unitKnown = (unit: string) => unit === '' || findUnit(unit, 'gravity') !== null
const optional = (role: string) => !['t', 'load', 'deflection'].includes(role)
const complete = computed(() => Object.entries(mapping).every(([role, m]) => (m.column === '' ? optional(role) : m.unit !== '' && unitKnown(m.unit))))

const begin = () => run(async () => {
  const chosen = file.value!
  const channels = Object.fromEntries(Object.entries(mapping).filter(([, m]) => m.column !== '').map(([role, m]) => [role, m]))
  const { jobId } = await api.post<{ jobId: number }>(`/api/tests/${page.value.test.id}/imports`, { sha256: chosen.sha256, fileName: chosen.fileName, channels, end: end.value })
  await follow(jobId)
  await store.refresh()
  await navigateTo(`/tests/${page.value.test.id}/reduce`)
})

async function follow(jobId: number): Promise<void> {
  for (;;) {
    const job = await api.get<{ status: string; progress: number; doing: string; error: { code: string; message: string; place: object } | null }>(`/api/jobs/${jobId}`)
    progress.value = { share: job.progress, doing: job.doing }
    if (job.status === 'done') break
    if (job.status === 'failed') {
      progress.value = null
      throw new HypometError(job.error!.code, job.error!.message, job.error!.place)
    }
    await new Promise(resolve => setTimeout(resolve, 120))
  }
  progress.value = null
}
const named: Record<string, string> = { '\t': 'tab', ';': 'semicolon', ',': 'comma' }
</script>

<template>
  <section class="panel space-y-3">
    <h2>Import a logger’s file</h2>
    <label :class="['flex cursor-pointer flex-col items-center gap-1 rounded-lg border-2 border-dashed p-5 text-center focus-within:border-accent', dragging ? 'border-accent bg-accent-soft' : 'border-line']" @dragover.prevent="dragging = true" @dragleave="dragging = false" @drop.prevent="drop">
      <FileUp class="size-6 text-quiet" aria-hidden="true" />
      <span class="font-medium">Drop a CSV here, or choose one</span>
      <span class="text-xs text-quiet">Tab, semicolon or comma; decimal point or comma; preamble and units row are understood.</span>
      <input type="file" accept=".csv,.txt,.tsv,.dat,text/*" class="sr-only" aria-label="Logger file" @change="look(($event.target as HTMLInputElement).files?.[0])">
    </label>
    <ProblemNote :problem="problem" />
    <template v-if="file">
      <p class="text-sm"><span class="font-medium">{{ file.fileName }}</span> <span class="text-quiet">{{ (file.size / 1000).toFixed(0) }} kB · {{ named[file.preview.delimiter] }}-separated, decimal {{ file.preview.decimal === ',' ? 'comma' : 'point' }} · header in row {{ file.preview.headerRow }}{{ file.preview.unitsRow ? `, units in row ${file.preview.unitsRow}` : ', no units row' }}{{ file.preview.preamble.length > 0 ? ` · ${file.preview.preamble.length} lines of preamble` : '' }}</span></p>
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
      <label class="block"><span class="label">How the test ended</span><select v-model="end" class="field"><option v-for="e in ends" :key="e.value" :value="e.value">{{ e.label }}</option></select></label>
      <div class="flex items-center justify-end gap-3">
        <p v-if="progress" class="flex flex-1 items-center gap-2 text-sm text-quiet" role="status"><progress :value="progress.share" class="h-2 w-32" :aria-label="progress.doing" />{{ progress.doing }}</p>
        <button type="button" class="button-main" :disabled="busy || !complete" @click="begin">Import</button>
      </div>
    </template>
  </section>
</template>
