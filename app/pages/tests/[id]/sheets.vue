<script setup lang="ts">
import { Printer } from '@lucide/vue'
import { roleWords } from '@hypomet/core'
import { useReady } from '~/composables/ready/useReady'

/** The checklist on paper: a page for each place where gauges sit, and one for what belongs to the whole test. */
const { page, units } = useTest()
const { rows, groups } = useReady()
const stations = computed(() =>
  [...new Set(rows.value.map(r => r.place || r.label))].map(place => ({
    place,
    rows: rows.value.filter(r => (r.place || r.label) === place),
  })),
)
const general = computed(() => groups.value.filter(g => g.group !== 'Gauges'))
const head = computed(() => `${page.value.article.name} ${page.value.revision.label} · ${page.value.test.title}`)
const version = computed(() => `plan version ${page.value.test.planNumber}, ${page.value.test.planState}`)
const print = () => window.print()
const expected = (role: string) => {
  const c = page.value.view?.channels.find(x => x.role === role)
  return c
    ? `${units.show(c.expectedPeak, c.kind, { digits: 3 })} ` +
        `expected${c.fullScale === null ? '' : ` on ${units.show(c.fullScale, c.kind, { digits: 3 })}`}`
    : ''
}
</script>

<template>
  <main class="space-y-4">
    <header class="no-print flex items-center justify-between">
      <div>
        <h1>Sheets for the rig</h1>
        <p class="text-sm text-quiet">
          {{ stations.length }} {{ stations.length === 1 ? 'station' : 'stations' }}, a page each, and one for the whole
          test.
        </p>
      </div>
      <div class="flex gap-2">
        <NuxtLink :to="`/tests/${page.test.id}/ready`" class="button">Back to the checklist</NuxtLink
        ><button type="button" class="button-main" @click="print">
          <Printer class="size-4" aria-hidden="true" />Print
        </button>
      </div>
    </header>
    <section v-for="s in stations" :key="s.place" class="panel sheet" data-sheet>
      <p class="text-xs text-quiet">{{ head }} · {{ version }}</p>
      <h1 class="mb-2">Station: {{ s.place }}</h1>
      <div v-for="r in s.rows" :key="r.role" class="mb-4 break-inside-avoid">
        <p class="font-semibold">
          {{ r.label }} <span class="text-sm font-normal text-quiet">{{ r.sensor }} · {{ expected(r.role) }}</span>
        </p>
        <table class="data">
          <thead>
            <tr>
              <th class="w-36">Stage</th>
              <th class="w-48">Must read</th>
              <th>Read</th>
              <th class="w-72">Good · by · when</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in r.cells" :key="c.key" class="h-9">
              <td>{{ c.gauge!.label }}</td>
              <td class="text-sm">{{ c.reading?.wanted ?? '' }}</td>
              <td>{{ c.read?.words ?? '' }}</td>
              <td class="text-sm">
                {{ c.state === 'open' ? '☐' : c.state === 'failed' ? '✗' : '☑' }} {{ c.by ?? '' }}
                {{ c.at ? moment(c.at) : '' }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
    <section class="panel sheet" data-sheet>
      <p class="text-xs text-quiet">{{ head }} · {{ version }}</p>
      <h1 class="mb-2">The whole test</h1>
      <p v-if="page.view" class="mb-2 rounded border border-caution px-2 py-1 text-sm text-caution">
        {{ page.view.caution }}
      </p>
      <template v-for="f in page.firings" :key="f.id"
        ><p class="text-sm">
          <strong>Lesson:</strong> {{ f.lesson.title }}. {{ f.lesson.instead }}
          <span class="text-quiet">{{
            f.answer ? `${f.answer.replaceAll('-', ' ')}: ${f.reason}` : 'not answered yet'
          }}</span>
        </p></template
      >
      <div v-for="g in general" :key="g.group" class="mt-2 break-inside-avoid">
        <h2>{{ g.group }}</h2>
        <p v-for="i in g.items" :key="i.key" class="border-b border-line/60 py-0.5 text-sm">
          {{ i.state === 'done' ? '☑' : i.state === 'overridden' ? '⚠' : '☐' }}
          {{ i.sign ? `Signature of ${roleWords(i.sign)}: ____________________` : i.text }}
          <span class="text-quiet">{{
            i.by && i.state !== 'open' ? `${i.by}${i.reason ? `: ${i.reason}` : ''}` : ''
          }}</span>
        </p>
      </div>
    </section>
  </main>
</template>

<style scoped>
@media print {
  .sheet {
    break-after: page;
    border: 0;
    padding: 0;
  }
  .sheet:last-child {
    break-after: auto;
  }
}
</style>
