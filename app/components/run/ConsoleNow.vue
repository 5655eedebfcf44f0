<script setup lang="ts">
import type { Verdict } from '@hypomet/core'
import type { ConsoleView } from '~/composables/run/useConsole'
import type { LiveView } from '~/composables/run/useLiveRun'

/** What is on, what it does, and where that leads: readable at three metres. */
const props = defineProps<{ live: LiveView; console: ConsoleView; rehearsal?: boolean; byHand?: boolean }>()
const { page, units } = useTest()
const {
  view,
  labelOf,
  isOneReading,
  showLoad,
  showReading,
  load,
  loadText,
  readingText,
  ageOf,
  rung,
  phase,
  target,
  next,
  loadsNext,
  governing,
  kind,
  isLively,
  figureText,
} = props.console
const words: Record<string, string> = {
  ramp: 'Loading',
  hold: 'Holding',
  waiting: 'LOOK',
  paused: 'HELD',
  unloading: 'Unloading',
  ended: 'Run ended',
}
/** Where a run of its kind stands, while nothing else is to be done about it. */
const stands = computed(() => (phase.value === 'hold' || phase.value === 'ramp' ? (kind.value?.stands ?? '') : ''))
const left = computed(() =>
  Math.max(0, Math.round((view.value.rungs[rung.value]?.hold ?? 0) - (props.live.state.value?.elapsed ?? 0))),
)
const countdown = computed(() => props.live.state.value?.countdown ?? null)
const elapsed = computed(() => clockText(props.live.state.value?.t ?? 0))
const below = computed(() => {
  if (props.live.now.value?.source === 'lost') return 'the stream is lost'
  if (!props.live.connected.value) return 'line lost, coming back …'
  if (phase.value === 'hold') return `${left.value} s left`
  if (phase.value === 'waiting') {
    const off = view.value.rungs[rung.value]?.takeOff ?? []
    return off.length > 0 ? `take off: ${off.join(', ')}; then say go` : 'goes on when somebody says go'
  }
  if (phase.value === 'ramp' && props.byHand) return 'read it when it is on'
  return ' '
})
const FOUR = 'lg:grid-cols-[minmax(8.5rem,auto)_1fr_1fr_1.3fr]'
const STALE = 1
const LATE = 3
const large = (role: string) => [
  'text-5xl font-bold tabular-nums lg:text-6xl',
  ageOf(role) >= STALE ? 'text-quiet opacity-50' : '',
]
const ageWords = (role: string) => `${ageOf(role).toFixed(ageOf(role) < 10 ? 1 : 0)} s old`
/** An output of the abort whose newest word is that it was not taken: people take the load off. */
const untaken = computed(() => {
  const newest = new Map(
    props.live.events.value.flatMap(e => (e.kind.startsWith('abort output') ? [[e.role, e.kind] as const] : [])),
  )
  return [...newest.values()].includes('abort output failed')
})
const late = computed(() => {
  if (untaken.value) return 'The abort’s output was not taken: unload by hand'
  if (props.live.silentFor.value >= 2)
    return `The line to Hypomet is dead for ${props.live.silentFor.value.toFixed(0)} s`
  const age = Math.max(ageOf(view.value.commanded.role), isOneReading.value ? 0 : ageOf(view.value.read.role))
  return !props.byHand && age >= LATE ? `No new reading for ${age.toFixed(0)} s` : ''
})
const shown = (p: { value: number; half: number }) =>
  units.result({ value: p.value, bound: 'exact', u: p.half / 2, k: 2 }, view.value.read.kind)

/** Of what its kind is read for, the first that a limit is set on: what it has come to, which Reduce decides on. */
const ofKind = computed(() => {
  for (const f of kind.value?.figures ?? []) {
    const limit = page.value.limits.find(l => l.quantity === f.key)
    if (!limit || f.value === null) continue
    const isMet = limit.comparator === 'atMost' ? f.value <= limit.value : f.value >= limit.value
    const result = { value: f.value, bound: 'exact' as const, ...(f.half === null ? {} : { u: f.half / 2, k: 2 }) }
    const verdict: Verdict = isMet || limit.comparator === 'atLeast' ? 'undecided' : 'fail'
    return { limit, result, verdict, to: 'as read now', kind: f.kind }
  }
  return null
})
/** A reading against its limit as it is heading; what is loaded itself is at least what is on. */
const rail = computed(() => {
  if (kind.value) return ofKind.value
  const limit = governing.value
  if (!limit) return null
  if (isOneReading.value) {
    const peak = Math.max(0, ...(props.live.now.value?.holds ?? []).map(h => h.load), load.value)
    const met = limit.comparator === 'atLeast' ? peak >= limit.value : peak <= limit.value
    return {
      limit,
      result: { value: peak, bound: 'atLeast' as const },
      verdict: (met
        ? limit.comparator === 'atLeast'
          ? 'pass'
          : 'undecided'
        : limit.comparator === 'atLeast'
          ? 'undecided'
          : 'fail') as Verdict,
      to: 'carried so far',
    }
  }
  const p = props.live.now.value?.design
  if (!p) return null
  const margin = limit.comparator === 'atMost' ? limit.value - p.value : p.value - limit.value
  return {
    limit,
    result: { value: p.value, bound: 'exact' as const, u: p.half / 2, k: 2 },
    verdict: (margin > p.half ? 'pass' : margin < -p.half ? 'fail' : 'undecided') as Verdict,
    to: `projected to ${showLoad.value(view.value.designTarget)}`,
  }
})
</script>

<template>
  <section
    :class="[
      'panel grid grid-cols-2 items-center gap-x-6 gap-y-2',
      kind ? 'lg:grid-cols-[minmax(8.5rem,auto)_1fr_minmax(14rem,18rem)]' : FOUR,
      rehearsal ? 'border-2! border-dashed border-open!' : '',
    ]"
    aria-label="Now"
  >
    <p v-if="late" role="alert" class="col-span-full text-center text-4xl font-bold text-fail" data-late>{{ late }}</p>
    <div>
      <p class="flex justify-between gap-3 text-sm text-quiet">
        <span>Rung {{ rung + 1 }} of {{ view.rungs.length }}</span
        ><span class="tabular-nums">{{ elapsed }}</span>
      </p>
      <p v-if="countdown !== null" class="text-3xl font-bold tabular-nums text-open lg:text-4xl" role="status">
        Load in {{ Math.max(0, Math.ceil(countdown)) }}
      </p>
      <p
        v-else
        :class="[
          'text-3xl lg:text-4xl font-bold',
          phase === 'paused' || phase === 'waiting' ? 'text-open' : 'text-ink',
        ]"
        role="status"
      >
        {{ stands || words[phase] }}
      </p>
      <p :class="['text-sm', live.now.value?.source === 'lost' ? 'font-semibold text-fail' : 'text-quiet']">
        {{ countdown !== null ? 'baseline for the cameras' : below }}
      </p>
    </div>
    <ConsoleFigures
      v-if="kind"
      class="max-lg:col-span-2"
      :figures="kind.figures"
      :text="figureText"
      :age="ageOf(view.read.role)"
    />
    <div v-if="!kind" class="min-w-0">
      <p class="truncate text-sm text-quiet">{{ labelOf(view.commanded.role) }} · target {{ showLoad(target) }}</p>
      <p :class="large(view.commanded.role)" data-testid="load">{{ loadText }}</p>
      <p v-if="ageOf(view.commanded.role) >= STALE" class="text-sm font-semibold text-fail" data-age>
        {{ ageWords(view.commanded.role) }}
      </p>
    </div>
    <div v-if="!kind" class="min-w-0">
      <template v-if="!isOneReading"
        ><p class="truncate text-sm text-quiet">
          {{ labelOf(view.read.role)
          }}{{ view.expectedSlope ? ` · expected ${showReading(load * view.expectedSlope)}` : '' }}
        </p>
        <p :class="large(view.read.role)">{{ readingText }}</p>
        <p v-if="ageOf(view.read.role) >= STALE" class="text-sm font-semibold text-fail" data-age>
          {{ ageWords(view.read.role) }}
        </p></template
      >
      <template v-else
        ><p class="text-sm text-quiet">
          {{ loadsNext ? `Still to ${showLoad(loadsNext.target)}` : 'Nothing more goes on' }}
        </p>
        <p class="text-5xl font-bold tabular-nums lg:text-6xl">
          {{ loadsNext ? showLoad(Math.max(0, loadsNext.target - load)) : '–' }}
        </p></template
      >
    </div>
    <div class="min-w-0 max-lg:col-span-2">
      <p v-if="kind" class="truncate text-sm text-quiet">
        {{ labelOf(view.commanded.role) }} {{ isLively ? '' : loadText }} · target {{ showLoad(target) }}
      </p>
      <template v-if="rail">
        <p class="truncate text-sm text-quiet">{{ rail.limit.name }}, {{ rail.to }}</p>
        <LimitRail
          :label="rail.limit.name"
          :limit="rail.limit.value"
          :comparator="rail.limit.comparator"
          :result="rail.result"
          :verdict="rail.verdict"
          :show="v => units.show(v, 'kind' in rail! ? rail.kind : view.read.kind, { digits: 3 })"
        />
      </template>
      <p class="truncate text-sm text-quiet">
        {{ !next ? 'Last rung' : `Next ${next.target === 0 ? 'zero' : showLoad(next.target)}`
        }}<template v-if="loadsNext && live.now.value?.next && !isLively"
          >{{ loadsNext === next || phase === 'ramp' ? '' : ` · then ${showLoad(loadsNext.target)}` }} →
          <strong class="text-ink">{{ shown(live.now.value.next) }}</strong> by
          {{ live.now.value.next.from === 'readings' ? 'the readings so far' : 'the calculation' }}</template
        >
      </p>
    </div>
  </section>
</template>
