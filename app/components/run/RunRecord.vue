<script setup lang="ts">
import type { TestPage } from '~/types/api'

const props = defineProps<{ runs: TestPage['runs']; datasets: TestPage['datasets'] }>()
const { page, known, units } = useTest()
const SOURCES: Record<string, string> = {
  rig: 'Simulated rig',
  stream: 'Live stream',
  crew: 'Read by hand',
  file: 'Logger file',
}
const kind = computed(() => page.value.view?.commanded.kind ?? 'force')
const read = computed(() => page.value.view?.read ?? null)
const newest = computed(() => props.runs[0])
const struck = computed(() => struckTimes(newest.value?.events ?? []))
const wrong = ref<TestPage['runs'][number]['events'][number] | null>(null)
const runStore = useRunStore()
const { store } = useTest()
const { problem, run } = useAction()
const strike = (what: { at: number; role: string; value: number; note: string }) =>
  run(async () => {
    await runStore.strike(newest.value!.id, what)
    wrong.value = null
    await store.refresh()
  })
</script>

<template>
  <section class="panel">
    <div class="mb-1 flex items-center justify-between">
      <h2>Recorded</h2>
      <NuxtLink v-if="known" :to="`/tests/${page.test.id}/reduce`" class="button-main">To the reduction</NuxtLink
      ><NuxtLink v-else-if="datasets.length > 0" :to="`/records/${datasets[0]!.id}`" class="button-main"
        >Look at the record</NuxtLink
      >
    </div>
    <table class="data">
      <thead>
        <tr>
          <th>Run</th>
          <th>Data</th>
          <th class="number">Rows</th>
          <th>SHA-256</th>
          <th>How it ended</th>
          <th>By</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in runs" :key="r.id">
          <td>{{ SOURCES[r.source] }} · {{ moment(r.startedAt) }}</td>
          <td>
            {{ datasets.find(d => d.id === r.datasetId)?.name ?? '–'
            }}<span v-for="d in datasets.filter(x => x.joinsId === r.datasetId)" :key="d.id" class="block text-quiet"
              >with {{ d.name }}, {{ d.rows }} rows</span
            >
          </td>
          <td class="number">{{ datasets.find(d => d.id === r.datasetId)?.rows ?? '–' }}</td>
          <td>
            <code class="text-xs">{{ datasets.find(d => d.id === r.datasetId)?.sha256?.slice(0, 12) ?? '–' }}</code>
          </td>
          <td>{{ r.end }}</td>
          <td>{{ r.by }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="runs[0] && runs[0].events.length > 0">
      <h2 class="mb-1 mt-3">Events of the newest run, values as recorded</h2>
      <ol class="grid max-h-48 grid-cols-2 gap-x-6 overflow-y-auto text-sm" tabindex="0" aria-label="Events">
        <li v-for="e in runs[0].events" :key="e.id" class="flex gap-2 border-b border-line/60 py-0.5">
          <span class="w-14 shrink-0 whitespace-nowrap text-right text-quiet">{{ e.t.toFixed(1) }} s</span
          ><span class="shrink-0 font-medium">{{ e.kind }}</span
          ><span :class="['text-quiet', struck.has(e) ? 'line-through' : '']"
            >{{ e.value === null ? '' : units.show(e.value, kind, { digits: 3 })
            }}{{
              e.reading === null || !read || read.role === page.view?.commanded.role
                ? ''
                : ` · ${units.show(e.reading, read.kind, { digits: 4 })}`
            }}
            {{ e.note }}</span
          ><button
            v-if="runs[0].source === 'crew' && e.kind === 'call-out' && e.role"
            type="button"
            class="shrink-0 cursor-pointer text-quiet underline"
            @click="wrong = e"
          >
            Strike out</button
          ><span class="ml-auto shrink-0 text-quiet">{{ e.by }}</span>
        </li>
      </ol>
    </template>
    <p v-if="problem" class="problem" role="alert">{{ problem.message }}</p>
    <StrikeDialog :said="wrong" @close="wrong = null" @strike="strike" />
    <AttachmentStrip
      v-if="runs[0]?.events.some(e => e.kind === 'photo')"
      :id="page.test.id"
      class="mt-3"
      entity="test"
      tag="run"
      title="Photos of the run"
    />
    <p v-for="w in datasets[0]?.warnings ?? []" :key="w.message" class="mt-2 text-sm text-open">{{ w.message }}</p>
  </section>
</template>
