<script setup lang="ts">
import type { TestPage } from '~/types/api'

/** What was rehearsed: the surprise, who or what noticed it, and how long until the ladder stood. */
defineProps<{ rehearsals: TestPage['rehearsals'] }>()
const s = (v: number) => `${v.toFixed(1)} s`
</script>

<template>
  <section class="panel" aria-label="Rehearsals">
    <h2 class="mb-1">Rehearsed</h2>
    <table class="data">
      <thead>
        <tr>
          <th>When, by whom</th>
          <th>Surprise</th>
          <th>A rule spoke</th>
          <th>A person noticed</th>
          <th>Held or aborted</th>
          <th>So</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="r in rehearsals" :key="r.id">
          <tr v-for="(d, i) in r.debrief" :key="i" data-debrief>
            <td>
              {{ moment(r.startedAt) }}, {{ r.by }} <span class="text-xs text-quiet">{{ r.end }}</span>
            </td>
            <td>{{ d.words }}, at {{ s(d.fault.at) }}</td>
            <td>{{ d.watched ? `after ${s(d.watched.after)}: ${d.watched.note.replace(/ \(.*\)$/, '')}` : '–' }}</td>
            <td>{{ d.noticed ? `${d.noticed.by}, after ${s(d.noticed.after)} (${d.noticed.kind})` : '–' }}</td>
            <td>{{ d.stopped ? `${d.stopped.by}, after ${s(d.stopped.after)}` : '–' }}</td>
            <td :class="d.missed ? 'font-semibold text-fail' : 'text-pass'">
              {{ !d.came ? 'it ended before that' : d.missed ? 'missed' : 'noticed' }}
            </td>
          </tr>
          <tr v-if="r.debrief.length === 0">
            <td>
              {{ moment(r.startedAt) }}, {{ r.by }} <span class="text-xs text-quiet">{{ r.end }}</span>
            </td>
            <td colspan="5" class="text-quiet">no surprise</td>
          </tr>
        </template>
      </tbody>
    </table>
  </section>
</template>
