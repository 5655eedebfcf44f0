<script setup lang="ts">
import { FileUp } from '@lucide/vue'
import { FILE_HEAD } from '~/composables/import/importMapping'
import type { FilePreview } from '~/types/api'

/** Data that exists: what the file holds, and the test that it is of, there already or made on the spot. */
const api = useApi()
const importing = useImportingStore()
const { data: campaigns } = await useAsyncData('import-tests', () => api.get('/api/index'))
useTrail().value = [{ name: 'Import' }]
useHead({ title: 'Import · Hypomet' })
const dropped = useDroppedFile()
const { file } = dropped
const { problem, run } = useAction()
const preview = shallowRef<FilePreview['preview'] | null>(null)
const isWhole = computed(() => (file.value?.size ?? 0) <= FILE_HEAD || preview.value?.delimiter === undefined)
useShownFile(chosen =>
  run(async () => {
    preview.value = null
    preview.value = await importing.glance(chosen)
  }),
)
const words = ref('')
const tests = computed(() =>
  (campaigns.value ?? [])
    .flatMap(c =>
      c.articles.flatMap(a =>
        a.revisions.flatMap(r =>
          r.tests.map(t => ({ id: t.id, title: t.title, article: `${a.name} ${r.label}`, campaign: c.title })),
        ),
      ),
    )
    .toReversed(),
)
const found = computed(() =>
  tests.value.filter(t =>
    words.value
      .toLowerCase()
      .split(/\s+/)
      .every(w => `${t.title} ${t.article} ${t.campaign}`.toLowerCase().includes(w)),
  ),
)
type Choice = 'new' | 'existing'
const choice = ref<Choice>('new')
</script>

<template>
  <main class="mx-auto w-full max-w-5xl space-y-3 p-4">
    <h1>Import a logger’s file</h1>
    <FilePicker
      class="panel flex items-center gap-3 border-2 border-dashed"
      label="Logger file"
      @files="dropped.bring($event[0]!)"
    >
      <FileUp class="size-6 text-quiet" aria-hidden="true" />
      <span
        ><span class="font-medium">{{ file ? file.name : 'Drop a file anywhere, or choose one' }}</span
        ><span class="block text-xs text-quiet">{{
          preview
            ? preview.about
            : 'Text in any dialect, workbooks, Parquet, NumPy, WAV, universal vibration files. ' +
              'What it is understood as is shown before anything is kept.'
        }}</span></span
      >
    </FilePicker>
    <ProblemNote :problem="problem" />
    <section v-if="file && preview" class="panel"><FileGlance :preview="preview" :is-whole="isWhole" /></section>
    <section class="panel space-y-2">
      <div class="flex flex-wrap items-center justify-between gap-3">
        <h2>Which test is it of?</h2>
        <ChoiceBar
          v-if="tests.length > 0"
          v-model="choice"
          label="Which test"
          :choices="[
            { value: 'new', title: 'A new one' },
            { value: 'existing', title: 'One that is here' },
          ]"
        />
      </div>
      <template v-if="choice === 'existing' && tests.length > 0">
        <input v-model="words" type="search" class="field w-56" placeholder="Find a test" aria-label="Find a test" />
        <table class="data">
          <thead>
            <tr>
              <th>Test</th>
              <th>Article</th>
              <th>Campaign</th>
              <th><span class="sr-only">Import</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="t in found" :key="t.id">
              <td class="font-medium">{{ t.title }}</td>
              <td>{{ t.article }}</td>
              <td class="text-quiet">{{ t.campaign }}</td>
              <td class="text-right">
                <NuxtLink
                  :to="`/tests/${t.id}/run`"
                  class="button text-xs"
                  :aria-label="`Import for ${t.title}, ${t.article}`"
                  >{{ file ? 'It is of this test' : 'Open' }}</NuxtLink
                >
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="found.length === 0" class="text-sm text-quiet">No test by these words.</p>
      </template>
      <NewTestHere v-else-if="file && preview" :file-name="file.name" />
      <p v-else-if="!file" class="text-sm text-quiet">
        A file first; then a name, the kind of test and its limits, if there are any. Nothing needs to be planned for
        data that exists.
      </p>
    </section>
  </main>
</template>
