<script setup lang="ts">
import type { ConsoleView } from '~/composables/run/useConsole'
import type { LiveEvent } from '~/types/api'
import type { LiveView } from '~/composables/run/useLiveRun'

/** What happened, newest first, and beneath it whether recorder and watch keep up, and who looks on. */
const props = defineProps<{ live: LiveView; console: ConsoleView; rehearsal?: boolean; byHand?: boolean }>()
const emit = defineEmits<{
  'let-go': []
  strike: [what: { at: number; role: string; value: number; note: string }]
}>()
const { showLoad, showReading, zero, isOneReading } = props.console
const LOUD = new Set([
  'watch',
  'limit passed',
  'health',
  'abort',
  'abort output failed',
  'stop',
  'article broke',
  'fixture gave way',
  'recorder',
  'stream lost',
  'guard lost',
  'overload',
  'clock',
])
const wrong = ref<LiveEvent | null>(null)
const struck = computed(() => struckTimes(props.live.events.value))
const newest = computed(() => props.live.events.value.slice(-200).toReversed())
const words = (e: { kind: string; note: string }) => (e.note ? `${e.kind}: ${e.note}` : e.kind)
const now = computed(() => props.live.now.value)
const count = new Intl.NumberFormat('en', { notation: 'compact', maximumFractionDigits: 1 })
const kept = computed(() => {
  const r = now.value?.recorder
  if (props.rehearsal) return 'nothing is recorded'
  if (!r) return ''
  return (
    r.problem ||
    `${count.format(r.stored)} samples stored, ${r.behind < 1 ? 'up to date' : `${r.behind.toFixed(1)} s behind`}`
  )
})
</script>

<template>
  <section class="panel order-last flex max-h-80 flex-col overflow-hidden lg:order-none lg:max-h-none">
    <h2 class="mb-1">Events</h2>
    <ol class="flex-1 overflow-y-auto text-sm" aria-live="polite" tabindex="0" aria-label="Events, newest first">
      <li v-for="(e, i) in newest" :key="live.events.value.length - i" class="border-b border-line/60 py-1">
        <span class="mr-2 text-quiet">{{ clockText(e.t) }}</span><span
          :class="['font-medium', LOUD.has(e.kind) ? 'text-open' : '', struck.has(e) ? 'line-through' : '']"
          >{{ words(e) }}</span
        >
        <span class="block text-xs text-quiet"
          >{{ e.value === null ? '' : `${showLoad(e.value - zero.commanded)} · `
          }}{{ e.reading === null || isOneReading ? '' : `${showReading(e.reading - zero.read)} · ` }}{{ e.by }}
          <button
            v-if="byHand && e.kind === 'call-out' && e.role"
            type="button"
            class="ml-1 cursor-pointer underline"
            @click="wrong = e"
          >
            Strike out
          </button></span
        >
      </li>
    </ol>
    <dl class="mt-1 grid grid-cols-[auto_1fr] gap-x-2 border-t border-line pt-1 text-xs">
      <dt class="text-quiet">Recorder</dt>
      <dd
        :class="now?.recorder.problem || (now?.recorder.behind ?? 0) >= 1 ? 'font-semibold text-fail' : ''"
        data-testid="recorder"
      >
        {{ kept }}
        <button
          v-if="now?.recorder.problem && props.console.phase.value === 'ended'"
          type="button"
          class="button px-1.5 py-0.5"
          @click="emit('let-go')"
        >
          Leave the run: give up {{ count.format(now.recorder.waiting) }} samples in memory
        </button>
      </dd>
      <dt class="text-quiet">Watched</dt>
      <dd class="tabular-nums" data-testid="latency">
        {{ now ? `${now.latency.last.toFixed(0)} ms after a sample, at worst ${now.latency.worst.toFixed(0)}` : '' }}
      </dd>
      <dt class="text-quiet">Looking on</dt>
      <dd class="truncate">{{ now?.watching.join(', ') }}</dd>
    </dl>
    <StrikeDialog :said="wrong" @close="wrong = null" @strike="((wrong = null), emit('strike', $event))" />
  </section>
</template>
