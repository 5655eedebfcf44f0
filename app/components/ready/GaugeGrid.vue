<script setup lang="ts">
import { Check, CircleX, ShieldAlert } from '@lucide/vue'
import type { GaugeRow, ReadyTick } from '~/composables/ready/useReady'

/** Gauges by place and stage: what is done, read, red or overridden, at a glance. */
const props = defineProps<{ stages: string[]; rows: GaugeRow[]; selected: string | null }>()
const emit = defineEmits<{ pick: [key: string] }>()
const words: Record<string, string> = { open: 'open', done: 'done', failed: 'not good', overridden: 'overridden' }
const about = (r: GaugeRow, c: ReadyTick) =>
  `${r.label}, ${c.gauge!.label.toLowerCase()}: ${words[c.state]}${c.read ? `, ${c.read.words}` : ''}`
function move(e: KeyboardEvent, row: number, column: number): void {
  const step = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[e.key]
  const next = step && props.rows[row + step[0]!]?.cells[column + step[1]!]
  if (!next) return
  e.preventDefault()
  emit('pick', next.key)
  const table = (e.currentTarget as HTMLElement).closest('table')
  void nextTick(() => table?.querySelector<HTMLElement>(`[data-cell="${CSS.escape(next.key)}"]`)?.focus())
}
</script>

<template>
  <table class="data">
    <thead>
      <tr>
        <th>Gauge</th>
        <th v-for="s in stages" :key="s" class="text-center!">{{ s }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(r, i) in rows" :key="r.role">
        <th scope="row" class="normal-case">
          <span class="text-sm text-ink">{{ r.label }}</span><span class="block text-xs font-normal">{{
            [r.place, r.sensor].filter(Boolean).join(' · ')
          }}</span>
        </th>
        <td v-for="(c, j) in r.cells" :key="c.key" class="p-0.5! text-center">
          <button
            type="button"
            :class="[
              'flex h-9 w-full min-w-12 flex-col items-center justify-center rounded border text-2xs',
              selected === c.key ? 'ring-2 ring-accent' : '',
              c.state === 'done'
                ? 'border-pass/40 bg-panel text-pass'
                : c.state === 'failed'
                  ? 'border-2 border-fail text-fail'
                  : c.state === 'overridden'
                    ? 'border-open text-open'
                    : 'border-dashed border-quiet text-quiet',
            ]"
            :aria-label="about(r, c)"
            :aria-pressed="selected === c.key"
            :data-cell="c.key"
            @click="emit('pick', c.key)"
            @keydown="move($event, i, j)"
          >
            <Check v-if="c.state === 'done'" class="size-3.5" aria-hidden="true" /><CircleX
              v-else-if="c.state === 'failed'"
              class="size-3.5"
              aria-hidden="true"
            /><ShieldAlert v-else-if="c.state === 'overridden'" class="size-3.5" aria-hidden="true" /><span
              v-else
              aria-hidden="true"
              >·</span
            >
            <span v-if="c.read" class="max-w-20 truncate">{{ c.read.words.split(',')[0] }}</span>
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>
