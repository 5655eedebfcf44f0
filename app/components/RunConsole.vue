<script setup lang="ts">
import { CirclePause, CirclePlay, Flag, Megaphone, OctagonX, TriangleAlert } from '@lucide/vue'
import { columnFormatter, parseSettings, quantity, type Figure, type QuantityInput } from '@hypomet/core'

/** The console of a running test: what rung, what load, what reading, and one key for each thing to do. */
const props = defineProps<{ runId: number; rehearsal?: boolean }>()
const { page, api, store, units } = useTest()
const { problem, run } = useAction()
const id = computed(() => props.runId as number | null)
const live = useLiveRun(id, () => void store.refresh())
const view = computed(() => page.value.view!)
/** Decimals by the largest that can come: at zero load the display does not dance with the noise. */
const showLoad = computed(() => columnFormatter([view.value.maxTarget], view.value.commanded.kind, { prefer: units.prefer.value, digits: 3 }))
const showReading = computed(() => columnFormatter([view.value.maxTarget * view.value.expectedSlope], view.value.read.kind, { prefer: units.prefer.value, digits: 4 }))
const limit = computed(() => page.value.limits.find(l => l.quantity === 'deflectionAtDesign'))

const zero = computed(() => {
  const until = live.t.value.findIndex(t => t > view.value.rungs[0]!.hold)
  const n = Math.max(1, until === -1 ? live.t.value.length : until)
  const mean = (v: number[]) => v.slice(0, n).reduce((a, b) => a + b, 0) / n
  return live.t.value.length === 0 ? { commanded: 0, read: 0 } : { commanded: mean(live.commanded.value), read: mean(live.read.value) }
})
const load = computed(() => (live.commanded.value.at(-1) ?? 0) - zero.value.commanded)
const reading = computed(() => (live.read.value.at(-1) ?? 0) - zero.value.read)
const rung = computed(() => live.state.value?.rung ?? 0)
/** Reading per load so far: what the article does, for the projection; the calculation until there is enough load. */
const slope = computed(() => (load.value > 0.1 * view.value.designTarget ? reading.value / load.value : view.value.expectedSlope))
const projected = computed(() => slope.value * view.value.designTarget)
const target = computed(() => view.value.rungs[rung.value]?.target ?? 0)
const next = computed(() => view.value.rungs[rung.value + 1] ?? null)
const phase = computed(() => live.state.value?.phase ?? 'hold')
const phaseWords: Record<string, string> = { ramp: 'Loading', hold: 'Holding', waiting: 'LOOK', paused: 'HELD', unloading: 'Unloading', ended: 'Ended' }
const left = computed(() => Math.max(0, Math.round((view.value.rungs[rung.value]?.hold ?? 0) - (live.state.value?.elapsed ?? 0))))

const ladder = computed(() => view.value.rungs.map((r, i) => {
  const reached = live.events.value.find(e => e.kind === 'rung reached' && e.rung === i)
  const call = live.events.value.findLast(e => e.kind === 'call-out' && e.rung === i && reached !== undefined && e.t >= reached.t)
  return {
    ...r, expected: r.expectedReading,
    reached: i < rung.value ? r.target : i === rung.value ? load.value : null,
    reading: reached?.reading != null && i > 0 ? (call?.reading ?? reached.reading) - zero.value.read : null,
    calledBy: call?.by,
    decision: i < rung.value ? ('done' as const) : i === rung.value ? (phase.value === 'paused' ? ('held' as const) : phase.value === 'unloading' ? ('stopped' as const) : ('going' as const)) : ('waiting' as const),
  }
}))

const figure = computed<Figure>(() => ({
  x: { label: 'Deflection', kind: view.value.read.kind },
  y: { label: 'Load', kind: view.value.commanded.kind },
  series: [
    { name: 'Predicted', style: 'predicted', x: [0, view.value.maxTarget * view.value.expectedSlope], y: [0, view.value.maxTarget] },
    { name: 'Measured', style: 'measured', x: live.read.value.map(v => v - zero.value.read), y: live.commanded.value.map(v => v - zero.value.commanded) },
  ],
  lines: target.value > 0 ? [{ axis: 'y', value: target.value, label: 'this rung' }] : [],
}))

type Command = 'hold' | 'resume' | 'go' | 'abort' | 'call-out' | 'mark' | 'reason' | 'deviation' | 'take' | 'pass'
const send = (command: Command, more: { note?: string; value?: number; to?: string } = {}) => run(() => api.post(`/api/runs/${props.runId}/command`, { command, ...more }))
const person = usePerson()
const hasControls = computed(() => live.controller.value === person.value)
/** A reading as it was shouted, typed beside the gauge's own. */
const shouted = ref<QuantityInput | null>(null)
async function callOut(): Promise<void> {
  const q = shouted.value
  await send('call-out', q === null ? {} : { value: parseSettings(quantity(view.value.read.kind), q) })
  shouted.value = null
}
const deviating = ref(false)
const deviation = reactive({ size: 0 as QuantityInput, note: '' })
async function deviate(): Promise<void> {
  await send('deviation', { value: parseSettings(quantity(view.value.commanded.kind), deviation.size), note: deviation.note })
  if (!problem.value) deviating.value = false
}
const why = ref('')
/** Asked after the unloading has begun: it never stands in its way. */
const asksWhy = computed(() => (phase.value === 'unloading' || phase.value === 'ended') && !live.events.value.some(e => e.kind === 'reason'))
const channels = computed(() => view.value.channels.filter(c => c.expression === null).map(c => {
  const reading = live.latest.value[c.role] ?? null
  // One unit and as many decimals as its largest wants: a number that is read does not change its unit.
  const text = columnFormatter([c.expectedPeak ?? c.fullScale ?? reading ?? 0], c.kind, { prefer: units.prefer.value, digits: 4 })(reading)
  return { ...c, text, used: reading !== null && c.fullScale ? Math.abs(reading) / c.fullScale : null }
}))
const confirming = ref(false)
const holdOrResume = () => (phase.value === 'paused' ? (confirming.value = true) : void send('hold'))
function resume(): void {
  confirming.value = false
  void send('resume')
}
const go = () => (phase.value === 'waiting' ? send('go') : undefined)
const keys: Record<string, () => unknown> = { c: () => send('call-out'), g: go, m: () => send('mark'), h: holdOrResume, x: () => send('abort') }
onKeyStroke(Object.keys(keys), e => {
  if (isTyping(e) || e.repeat) return
  e.preventDefault()
  keys[e.key]!()
})
const clock = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`
const eventWords = (e: { kind: string; note: string }) => (e.note ? `${e.kind}: ${e.note}` : e.kind)
</script>

<template>
  <div class="grid gap-3 lg:h-[calc(100vh-7.2rem)] lg:grid-cols-[1fr_20rem] lg:grid-rows-[auto_1fr_auto]">
    <section :class="['panel grid grid-cols-2 items-center gap-6 lg:grid-cols-[auto_1fr_1fr_1fr]', rehearsal ? 'border-2! border-dashed border-open!' : '']" aria-label="Now">
      <div>
        <p class="text-sm text-quiet">Rung {{ rung + 1 }} of {{ view.rungs.length }}</p>
        <p :class="['text-3xl font-bold', phase === 'paused' || phase === 'waiting' ? 'text-open' : 'text-ink']" role="status">{{ phaseWords[phase] }}</p>
        <p class="text-sm text-quiet">{{ phase === 'hold' ? `${left} s left` : phase === 'waiting' ? 'goes on when somebody says go' : live.connected.value ? ' ' : 'line lost, coming back …' }}</p>
      </div>
      <div><p class="text-sm text-quiet">Load · target {{ units.show(target, 'force', { digits: 3 }) }}</p><p class="text-5xl font-bold tabular-nums" data-testid="load">{{ showLoad(load) }}</p></div>
      <div><p class="text-sm text-quiet">Deflection · expected {{ showReading(load * view.expectedSlope) }}</p><p class="text-5xl font-bold tabular-nums">{{ showReading(reading) }}</p></div>
      <div>
        <template v-if="limit">
          <p class="text-sm text-quiet">{{ limit.name }}, projected to {{ units.show(view.designTarget, 'force', { digits: 3 }) }}</p>
          <LimitRail :label="limit.name" :limit="limit.value" :comparator="limit.comparator" :result="{ value: projected, bound: 'exact' }" :verdict="projected > limit.value ? 'fail' : 'pass'" :show="v => units.show(v, view.read.kind, { digits: 3 })" />
        </template>
        <p class="text-sm text-quiet">{{ next ? `Next rung ${units.show(next.target, 'force', { digits: 3 })} → ${units.show(slope * next.target, view.read.kind, { digits: 3 })} to come` : 'Last rung' }}</p>
      </div>
    </section>
    <section class="panel order-last flex max-h-80 flex-col overflow-hidden lg:order-none lg:row-span-2 lg:max-h-none">
      <h2 class="mb-1">Events</h2>
      <ol class="flex-1 overflow-y-auto text-sm" aria-live="polite" tabindex="0" aria-label="Events, newest first">
        <li v-for="(e, i) in live.events.value.toReversed()" :key="live.events.value.length - i" class="border-b border-line/60 py-1">
          <span class="mr-2 text-quiet">{{ clock(e.t) }}</span><span :class="['font-medium', e.kind === 'watch' || e.kind.includes('broke') || e.kind === 'abort' ? 'text-open' : '']">{{ eventWords(e) }}</span>
          <span class="block text-xs text-quiet">{{ e.value === null ? '' : showLoad(e.value - zero.commanded) }}{{ e.reading === null ? '' : ` · ${showReading(e.reading - zero.read)}` }} · {{ e.by }}</span>
        </li>
      </ol>
    </section>
    <section class="grid min-h-0 gap-3 lg:grid-cols-[26rem_1fr]">
      <div class="panel overflow-y-auto" tabindex="0" aria-label="Ladder"><StepLadder :rungs="ladder" :current="rung" :show-load="showLoad" :show-reading="showReading" /></div>
      <div class="panel flex h-96 min-h-0 flex-col lg:h-auto">
        <ul class="mb-1 flex flex-wrap gap-x-5 gap-y-0.5 text-sm" aria-label="Channels">
          <li v-for="c in channels" :key="c.role" :class="c.used !== null && c.used > 0.9 ? 'font-semibold text-open' : ''"><span class="text-quiet">{{ c.label }}</span> <span class="tabular-nums">{{ c.text }}</span><span v-if="c.used !== null" class="text-xs text-quiet"> · {{ Math.round(100 * c.used) }} %</span></li>
        </ul>
        <FigureChart :figure="figure" :prefer="units.prefer.value" name="run" height="100%" live class="flex min-h-0 flex-1 flex-col [&>div:last-of-type]:min-h-0 [&>div:last-of-type]:flex-1" />
      </div>
    </section>
    <section class="grid grid-cols-[1fr_1fr_1fr_1.4fr] gap-3 lg:col-span-2" aria-label="Controls">
      <div class="col-span-4 flex flex-wrap items-end gap-x-3 gap-y-1 text-sm">
        <form class="flex items-end gap-1" @submit.prevent="callOut"><QuantityField v-model="shouted" class="w-36" :kind="view.read.kind" :prefer="units.prefer.value" label="Reading as shouted" optional /><button class="button" :disabled="shouted === null">Write it down</button></form>
        <button type="button" class="button" @click="deviating = true; deviation.note = ''"><TriangleAlert class="size-4" aria-hidden="true" />Unplanned load …</button>
        <strong v-if="rehearsal" class="text-open">Rehearsal on the simulated rig: nothing of it enters the record.</strong>
        <span class="ml-auto">Controls: <strong data-testid="controller">{{ live.controller.value || 'nobody' }}</strong></span>
        <button v-if="!hasControls" type="button" class="button" @click="send('take')">Take the controls</button>
        <form v-if="asksWhy" class="flex basis-full items-end gap-2" @submit.prevent="send('reason', { note: why })"><label class="flex-1"><span class="label">Why it ended, for the record</span><input v-model="why" class="field"></label><button class="button" :disabled="why.trim() === ''">Write it down</button></form>
      </div>
      <button v-if="phase === 'waiting'" type="button" class="button-main py-3 text-lg" @click="go"><CirclePlay class="size-6" aria-hidden="true" />Go{{ person ? `, says ${person}` : '' }} <span class="key">g</span></button>
      <button v-else type="button" class="button py-3 text-lg" @click="send('call-out')"><Megaphone class="size-6" aria-hidden="true" />Call out <span class="key">c</span></button>
      <button type="button" class="button py-3 text-lg" @click="send('mark')"><Flag class="size-6" aria-hidden="true" />Mark <span class="key">m</span></button>
      <button type="button" class="button py-3 text-lg" @click="holdOrResume"><CirclePlay v-if="phase === 'paused'" class="size-6" aria-hidden="true" /><CirclePause v-else class="size-6" aria-hidden="true" />{{ phase === 'paused' ? 'Go on' : 'Hold' }} <span class="key">h</span></button>
      <button type="button" class="button border-fail! py-3 text-lg text-fail!" @click="send('abort')"><OctagonX class="size-6" aria-hidden="true" />Abort: unload now <span class="key">x</span></button>
      <ProblemNote class="col-span-4" :problem="problem" />
    </section>
    <BaseDialog :open="deviating" title="A load that no rung plans" description="It is written down with its size before the ladder goes on. Only planned rungs go on the article otherwise." @close="deviating = false">
      <form class="space-y-3" @submit.prevent="deviate">
        <QuantityField v-model="(deviation.size as never)" :kind="view.commanded.kind" :prefer="units.prefer.value" label="How much" />
        <label class="block"><span class="label">What was put on, and by whose word</span><input v-model="deviation.note" class="field"></label>
        <div class="flex justify-end gap-2"><button type="button" class="button" @click="deviating = false">Leave it</button><button class="button-main" :disabled="deviation.note.trim() === ''">Write it down</button></div>
      </form>
    </BaseDialog>
    <BaseDialog :open="confirming" title="Go on with the ladder?" :description="`${units.show(load, 'force', { digits: 3 })} are on the article. Nobody within ${units.show(view.standoff, 'length', { unit: 'm', digits: 2 })}?`" @close="confirming = false">
      <div class="flex justify-end gap-2"><button type="button" class="button" @click="confirming = false">Stay held</button><button type="button" class="button-main" @click="resume">Go on</button></div>
    </BaseDialog>
  </div>
</template>
