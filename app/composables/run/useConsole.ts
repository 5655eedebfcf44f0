import {
  columnFormatter,
  liveKindOf,
  nextLoading,
  outlineOf,
  planningOf,
  type LiveFigure,
  type LiveFlagCode,
} from '@hypomet/core'
import type { LiveView } from './useLiveRun'

const FLAG_WORDS: Record<LiveFlagCode, string> = {
  still: 'stands still',
  silent: 'no number',
  noisy: 'noisy',
  jumped: 'jumped',
}

/** Nothing over the line for so many s: it is dead. */
const LINE_DEAD = 2

export interface ConsoleChannel {
  role: string
  label: string
  text: string
  /** Share of its sensor's range. */
  used: number | null
  /** What is wrong with it, in words. */
  flag: string
  /** The other of its pair, and how far they are apart, as text. */
  twin: { role: string; label: string; apart: string } | null
  /** The expression that it is worked out by; null where it is read. */
  derived: string | null
}

/** What the console reads off a run that is going on, as a person reads it. */
export function useConsole(live: LiveView) {
  const { page, units } = useTest()
  const view = computed(() => page.value.view!)
  const labelOf = (role: string) =>
    view.value.channels.find(c => c.role === role)?.label ??
    (role === view.value.commanded.role ? view.value.commanded.label : role)
  const isOneReading = computed(() => view.value.read.role === view.value.commanded.role)
  /** Decimals by the largest that can come: at zero load the display does not dance with the noise. */
  const showLoad = computed(() =>
    columnFormatter([view.value.maxTarget], view.value.commanded.kind, { prefer: units.prefer.value, digits: 3 }),
  )
  const showReading = computed(() =>
    columnFormatter(
      [
        (isOneReading.value ? view.value.maxTarget : view.value.maxTarget * view.value.expectedSlope) ||
          view.value.channels.find(c => c.role === view.value.read.role)?.fullScale ||
          1,
      ],
      view.value.read.kind,
      { prefer: units.prefer.value, digits: 4 },
    ),
  )
  const zero = computed(() => ({
    commanded: live.now.value?.zeros[view.value.commanded.role] ?? 0,
    read: live.now.value?.zeros[view.value.read.role] ?? 0,
  }))
  const latestOf = (role: string) => live.now.value?.latest[role] ?? null
  const load = computed(() => latestOf(view.value.commanded.role) ?? 0)
  const reading = computed(() => latestOf(view.value.read.role) ?? 0)
  /** s since a number came of a channel, over a line that may be dead itself; 0 while it is fresh. */
  const ageOf = (role: string) => {
    const line = live.silentFor.value >= LINE_DEAD ? live.silentFor.value : 0
    return Math.max(live.now.value?.ages[role] ?? 0, line)
  }
  /** As it stands large: a dash where there is no number, never a nought. */
  const loadText = computed(() => showLoad.value(latestOf(view.value.commanded.role)))
  const readingText = computed(() => showReading.value(latestOf(view.value.read.role)))
  const rung = computed(() => live.state.value?.rung ?? 0)
  const phase = computed(() => live.state.value?.phase ?? 'hold')
  const target = computed(() => (phase.value === 'unloading' ? 0 : (view.value.rungs[rung.value]?.target ?? 0)))
  const next = computed(() => view.value.rungs[rung.value + 1] ?? null)
  /** What goes on next; projections speak of it, never of a zero or a step down. */
  const loadsNext = computed(() =>
    phase.value === 'unloading' || phase.value === 'ended'
      ? null
      : (nextLoading(view.value.rungs, rung.value, phase.value === 'ramp') ?? null),
  )

  /** The limit that the reading against the ladder is held against: the first of the kind's results that reads it. */
  const governing = computed(() => {
    const { readBy } = planningOf(page.value.test.family)
    const results = Object.keys(outlineOf(page.value.test.family)!.results)
    return (
      page.value.limits
        .filter(l => readBy[l.quantity] === view.value.read.role)
        .toSorted((a, b) => results.indexOf(a.quantity) - results.indexOf(b.quantity))[0] ?? null
    )
  })

  /** Pairs of which a rule has said that they part. */
  const parted = computed(
    () =>
      new Set(live.events.value.flatMap(e => (e.kind === 'watch' && e.role?.includes(' ') ? e.role.split(' ') : []))),
  )
  const channels = computed(() =>
    view.value.channels.map((c): ConsoleChannel => {
      const now = live.now.value
      const reading = now?.latest[c.role] ?? null
      // One unit and as many decimals as its largest wants: a number that is read does not change its unit.
      const show = columnFormatter([c.expectedPeak ?? c.fullScale ?? reading ?? 0], c.kind, {
        prefer: units.prefer.value,
        digits: 4,
      })
      const twin = c.twin ? view.value.channels.find(o => o.role === c.twin) : undefined
      const other = twin ? (now?.latest[twin.role] ?? null) : null
      const apart = reading === null || other === null ? '–' : show(reading - other)
      return {
        role: c.role,
        label: c.label,
        derived: c.expression,
        text: show(reading),
        used: reading !== null && c.fullScale ? Math.abs(reading) / c.fullScale : null,
        flag: [
          ...(ageOf(c.role) >= 1 ? [`${ageOf(c.role).toFixed(0)} s old`] : []),
          ...(now?.health[c.role] ?? []).map(f => FLAG_WORDS[f]),
          ...(parted.value.has(c.role) ? ['disagrees with its redundant channel'] : []),
        ].join(', '),
        twin: twin ? { role: twin.role, label: twin.label, apart } : null,
      }
    }),
  )

  /** What its kind of test is read for; null where load and governing reading say all. */
  const kind = computed(() => live.now.value?.kind ?? null)
  const { overTime: isOverTime = false, isLively = false } = liveKindOf(page.value.test.family) ?? {}
  /** One unit and as many decimals as the largest that can come wants. */
  function figureText({ key, kind: of, value, predicted }: LiveFigure, si: number | null = value): string {
    const channel = view.value.channels.find(c => c.role === key)
    const most = Math.max(
      Math.abs(predicted ?? 0),
      of === view.value.commanded.kind ? view.value.maxTarget : 0,
      Math.abs(channel?.expectedPeak ?? channel?.fullScale ?? 0),
    )
    return columnFormatter([most || (value ?? 0)], of, { prefer: units.prefer.value, digits: 3 })(si)
  }

  return {
    kind,
    isOverTime,
    isLively,
    figureText,
    view,
    labelOf,
    isOneReading,
    showLoad,
    showReading,
    zero,
    load,
    loadText,
    reading,
    readingText,
    ageOf,
    rung,
    phase,
    target,
    next,
    loadsNext,
    governing,
    channels,
  }
}

export type ConsoleView = ReturnType<typeof useConsole>
