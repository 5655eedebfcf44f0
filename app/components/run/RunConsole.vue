<script setup lang="ts">
import type { Figure, RigCommand } from '@hypomet/core'

/** The console of a running test: what rung, what load, what reading, and one key for each thing to do. */
const props = defineProps<{ runId: number; source?: string; rehearsal?: boolean }>()
const { page, store, units } = useTest()
const runs = useRunStore()
const { problem, run } = useAction()
const live = useLiveRun(
  computed(() => props.runId as number | null),
  () => void store.refresh(),
)
const rig = useRigStore()
onMounted(() =>
  watch(
    () => props.runId,
    id => (rig.onConsole = id),
    { immediate: true },
  ),
)
onBeforeUnmount(() => {
  rig.onConsole = null
})
const board = useConsole(live)
const {
  view,
  labelOf,
  isOneReading,
  showLoad,
  showReading,
  zero,
  load,
  reading,
  rung,
  phase,
  target,
  loadsNext,
  channels,
} = board
const speech = useSpokenRun(live, board)
const byHand = computed(() => props.source === 'crew')

const ladder = computed(() =>
  view.value.rungs.map((r, i) => {
    const reached = live.events.value.find(e => e.kind === 'rung reached' && e.rung === i)
    const call = live.events.value.findLast(
      e => e.kind === 'call-out' && e.rung === i && reached !== undefined && e.t >= reached.t,
    )
    return {
      ...r,
      expected: r.expectedReading,
      reached: i < rung.value ? r.target : i === rung.value ? load.value : null,
      reading: reached?.reading != null && i > 0 ? (call?.reading ?? reached.reading) - zero.value.read : null,
      calledBy: call?.by,
      decision:
        i < rung.value
          ? ('done' as const)
          : i === rung.value
            ? phase.value === 'paused'
              ? ('held' as const)
              : phase.value === 'unloading'
                ? ('stopped' as const)
                : ('going' as const)
            : ('waiting' as const),
    }
  }),
)

/** The newest drop or shot, on a clock that begins with its trigger. */
function newest({ role, t, y }: { role: string; t: number[]; y: number[] }): Figure {
  const kind = view.value.channels.find(c => c.role === role)?.kind ?? view.value.read.kind
  return {
    x: { label: 'Time from its trigger', kind: 'time' },
    y: { label: labelOf(role), kind },
    series: [{ name: 'Newest', style: 'measured', x: t, y }],
    lines: [],
  }
}

/** What is read over time, and where it is heading from now on. */
function overTime(t: readonly number[], read: readonly number[]): Figure {
  const { role, kind } = view.value.read
  const ahead = board.kind.value?.ahead
  return {
    x: { label: 'Time', kind: 'time' },
    y: { label: labelOf(role), kind },
    series: [
      { name: 'Measured', style: 'measured', x: [...t], y: read.map(v => v - zero.value.read) },
      ...(ahead?.role === role ? [{ name: 'From now on', style: 'predicted' as const, x: ahead.t, y: ahead.y }] : []),
    ],
    lines: [],
  }
}

/**
 * The reading over the load, with what comes next dotted in its band; where only the load is read, the load over time.
 */
const figure = computed<Figure>(() => {
  const { t, commanded, read } = live.curve.value
  const loads = commanded.map(v => v - zero.value.commanded)
  if (board.kind.value?.last) return newest(board.kind.value.last)
  if (board.isOverTime) return overTime(t, read)
  const lines = target.value > 0 ? [{ axis: 'y' as const, value: target.value, label: 'this rung' }] : []
  if (isOneReading.value)
    return {
      x: { label: 'Time', kind: 'time' },
      y: { label: labelOf(view.value.commanded.role), kind: view.value.commanded.kind },
      series: [{ name: 'Measured', style: 'measured', x: t, y: loads }],
      lines,
    }
  const projection = live.now.value?.next
  const ahead =
    projection && loadsNext.value
      ? [
          { x: [reading.value, projection.value - projection.half], y: [load.value, loadsNext.value.target] },
          { x: [reading.value, projection.value + projection.half], y: [load.value, loadsNext.value.target] },
        ]
      : []
  return {
    x: { label: labelOf(view.value.read.role), kind: view.value.read.kind },
    y: { label: labelOf(view.value.commanded.role), kind: view.value.commanded.kind },
    series: [
      {
        name: 'Predicted',
        style: 'predicted',
        x: [0, view.value.maxTarget * view.value.expectedSlope],
        y: [0, view.value.maxTarget],
      },
      { name: 'Measured', style: 'measured', x: read.map(v => v - zero.value.read), y: loads },
      ...ahead.map((a, i) => ({
        name: i === 0 ? 'Next, at least' : 'Next, at most',
        style: 'predicted' as const,
        ...a,
      })),
    ],
    lines,
  }
})

const VIEWS = {
  read: 'Read by hand',
  curve: 'Curve',
  strips: 'Strips',
  numbers: 'Numbers',
  rungs: 'Rungs',
  growth: 'Growth',
} as const
type View = keyof typeof VIEWS
const shown = ref<View>(byHand.value ? 'read' : isOneReading.value ? 'strips' : 'curve')
const wide = useMediaQuery('(min-width: 1700px)')
const views = computed(() =>
  (Object.keys(VIEWS) as View[]).filter(
    v =>
      (v !== 'read' || byHand.value) &&
      (v !== 'growth' || !isOneReading.value) &&
      (v !== 'strips' || !wide.value) &&
      (v !== 'rungs' || view.value.channels.length <= 24),
  ),
)
watch(wide, isWide => {
  if (isWide && shown.value === 'strips') shown.value = 'curve'
})
const turn = () => {
  shown.value = views.value[(views.value.indexOf(shown.value) + 1) % views.value.length]!
}
/** Pairs share a strip. */
const strips = computed(() =>
  channels.value
    .filter(c => !channels.value.some(o => o.twin?.role === c.role && o.role !== c.role && c.twin === null))
    .map(c => ({
      roles: c.twin ? [c.role, c.twin.role] : [c.role],
      label: c.twin ? `${c.label} and ${c.twin.label}` : c.label,
      reading: c.twin ? `${c.text}, apart ${c.twin.apart}` : c.text,
      flag: c.flag,
    })),
)
const pace = computed(
  () =>
    page.value.runs.find(r => r.id === props.runId)?.pace ??
    page.value.rehearsals.find(r => r.runId === props.runId)?.pace ??
    1,
)
const approaches = computed(() =>
  (live.now.value?.approaches ?? []).map(a => ({
    role: a.role,
    label: labelOf(a.role),
    words:
      `is heading for ${units.result({ value: a.steady, bound: 'exact', u: a.half / 2, k: 2 }, 'temperature')}, ` +
      `time constant ${a.timeConstant.toPrecision(2)} s.`,
  })),
)

type Command =
  | RigCommand
  | 'call-out'
  | 'mark'
  | 'photo'
  | 'reason'
  | 'deviation'
  | 'take'
  | 'pass'
  | 'read'
  | 'strike'
  | 'tare'
  | 'let-go'
const send = (command: Command, more: object = {}) => run(() => runs.command(props.runId, { command, ...more }))
</script>

<template>
  <div
    :class="[
      'grid gap-3',
      rehearsal ? 'rehearsal border-4 border-dashed border-open p-2' : '',
      'lg:h-[calc(100vh-7.2rem)] lg:grid-cols-[minmax(0,1fr)_19rem] lg:grid-rows-[auto_1fr_auto]',
    ]"
  >
    <ConsoleNow class="lg:col-span-2" :live="live" :console="board" :rehearsal="rehearsal" :by-hand="byHand" />
    <section class="grid min-h-0 gap-3 lg:grid-cols-[24rem_minmax(0,1fr)]">
      <div class="panel overflow-y-auto" tabindex="0" aria-label="Ladder">
        <StepLadder :rungs="ladder" :current="rung" :show-load="showLoad" :show-reading="showReading" />
      </div>
      <div :class="['grid min-h-0 gap-3', wide ? 'grid-cols-2' : 'grid-cols-[minmax(0,1fr)]']">
        <div class="panel flex h-96 min-h-0 flex-col lg:h-auto">
          <div class="mb-1 flex flex-wrap items-center gap-1">
            <ChoiceBar
              v-model="shown"
              :choices="views.map(value => ({ value, title: VIEWS[value] }))"
              label="View of the channels"
            />
            <span class="ml-auto text-2xs text-quiet"><span class="key">v</span> next view</span>
          </div>
          <CrewEntry v-if="shown === 'read'" :console="board" @read="send('read', { readings: $event })" />
          <FigureChart
            v-else-if="shown === 'curve'"
            :figure="figure"
            :prefer="units.prefer.value"
            name="run"
            height="100%"
            live
            class="flex min-h-0 flex-1 flex-col [&>div:last-of-type]:min-h-0 [&>div:last-of-type]:flex-1"
          />
          <LiveStrips v-else-if="shown === 'strips'" :live="live" :strips="strips" :window="20 * pace" />
          <ConsoleGrowth v-else-if="shown === 'growth'" :live="live" :console="board" />
          <ConsoleRungs v-else-if="shown === 'rungs'" :points="live.now.value?.points ?? []" />
          <ConsoleNumbers v-else :channels="channels" :own="live.now.value?.own ?? []" :approaches="approaches" />
        </div>
        <div v-if="wide" class="panel flex min-h-0 flex-col">
          <LiveStrips :live="live" :strips="strips" :window="20 * pace" />
        </div>
      </div>
    </section>
    <ConsoleEvents
      :live="live"
      :console="board"
      :rehearsal="rehearsal"
      :by-hand="byHand"
      @let-go="send('let-go')"
      @strike="send('strike', $event)"
    />
    <ConsoleControls
      class="lg:col-span-2"
      :run-id="runId"
      :live="live"
      :console="board"
      :rehearsal="rehearsal"
      :by-hand="byHand"
      :source="source"
      :voice="speech.on.value"
      :problem="problem"
      @voice="speech.on.value = $event"
      @send="(c, more) => send(c as Command, more)"
      @turn="turn"
    />
  </div>
</template>
