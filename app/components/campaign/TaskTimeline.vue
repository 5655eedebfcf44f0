<script setup lang="ts">
import { dayAfter, daysBetween, type Row } from '@hypomet/core'
import { format, isMonday, parseISO } from 'date-fns'
import type { PlacedTask } from '~/composables/campaign/useSchedule'

/**
 * Tasks as bars over the days: drag a bar to book it for a day, drag its end to make it longer. What sets the end is
 * marked.
 */
const props = defineProps<{
  tasks: readonly (Row & { id: number })[]
  placed: readonly PlacedTask[]
  due: string | null
  today: string
}>()
const emit = defineEmits<{ book: [id: number, on: string]; lengthen: [id: number, days: number] }>()

const ROW = 26
/** Days are counted from one that all have in common. */
const FIRST = '2000-01-01'
const number = (date: string) => daysBetween(FIRST, date)
const dateOf = (n: number) => dayAfter(FIRST, n)
const rows = computed(() =>
  props.tasks.flatMap((task, i) => {
    const p = props.placed.find(x => x.name === task['name'])
    return p ? [{ task, i, p, from: number(p.startDate), to: number(p.finishDate) + 1 }] : []
  }),
)
const from = computed(() => Math.min(...rows.value.map(r => r.from), number(props.today)) - 1)
const to = computed(() => Math.max(...rows.value.map(r => r.to), props.due ? number(props.due) + 1 : 0) + 2)
const share = (n: number) => (100 * (n - from.value)) / (to.value - from.value)
/** Mondays, thinned to what can be read. */
const marks = computed(() => {
  const weeks = Array.from({ length: to.value - from.value }, (_, i) => from.value + i).filter(n =>
    isMonday(parseISO(dateOf(n))),
  )
  const every = Math.max(1, Math.ceil(weeks.length / 12))
  return weeks.filter((_, i) => i % every === 0)
})
const short = (n: number) => format(parseISO(dateOf(n)), 'd MMM')

const plot = useTemplateRef<HTMLDivElement>('plot')
const drag = ref<{ id: number; what: 'move' | 'end'; x: number; days: number } | null>(null)
function begin(e: PointerEvent, id: number, what: 'move' | 'end'): void {
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
  drag.value = { id, what, x: e.clientX, days: 0 }
}
function move(e: PointerEvent): void {
  if (drag.value && plot.value)
    drag.value.days = Math.round(((e.clientX - drag.value.x) / plot.value.clientWidth) * (to.value - from.value))
}
function end(): void {
  const d = drag.value
  drag.value = null
  const row = rows.value.find(r => r.task.id === d?.id)
  if (!d || !row || d.days === 0) return
  if (d.what === 'move') emit('book', d.id, dateOf(row.from + d.days))
  else emit('lengthen', d.id, Math.max(0.5, Number(row.task['days']) + d.days))
}
const shifted = (id: number, what: 'move' | 'end') =>
  drag.value?.id === id && (drag.value.what === what || drag.value.what === 'move') ? drag.value.days : 0
type Bar = (typeof rows.value)[number]
function extent(r: Bar) {
  const [from, to] = [share(r.from + shifted(r.task.id, 'move')), share(r.to + shifted(r.task.id, 'end'))]
  return { left: `${from}%`, width: `${Math.max(0.6, to - from)}%` }
}
const about = ({ task, p }: Bar) =>
  `${String(task['name'])}: ${day(p.startDate)} – ${day(p.finishDate)}` +
  `${p.critical ? ', on the critical chain' : ''}. Drag to book it for another day.`
</script>

<template>
  <div class="grid grid-cols-[11rem_1fr]" role="group" aria-label="Timeline">
    <div class="pt-5">
      <p
        v-for="r in rows"
        :key="r.task.id"
        class="truncate pr-2 text-sm"
        :style="{ height: `${ROW}px` }"
        :data-hint="String(r.task['name'])"
      >
        <span v-if="r.p.critical" class="font-semibold">{{ r.task['name'] }}</span><template v-else>{{
          r.task['name']
        }}</template>
      </p>
    </div>
    <div ref="plot" class="relative overflow-hidden" @pointermove="move" @pointerup="end" @pointercancel="drag = null">
      <div class="relative h-5">
        <span v-for="m in marks" :key="m" class="absolute text-2xs text-quiet" :style="{ left: `${share(m)}%` }">{{
          short(m)
        }}</span>
      </div>
      <span
        v-for="m in marks"
        :key="`l${m}`"
        class="absolute bottom-0 top-5 w-px bg-line"
        :style="{ left: `${share(m)}%` }"
      />
      <span
        tabindex="0"
        class="absolute bottom-0 top-4 w-px bg-ink"
        :style="{ left: `${share(number(today))}%` }"
        data-hint="today"
      />
      <span
        v-if="due"
        tabindex="0"
        class="absolute bottom-0 top-4 w-1 bg-fail"
        :style="{ left: `${share(number(due) + 1)}%` }"
        :data-hint="`due ${day(due)}`"
      />
      <div v-for="r in rows" :key="r.task.id" class="relative" :style="{ height: `${ROW}px` }">
        <div
          tabindex="0"
          :class="[
            'absolute top-0.5 flex h-5 cursor-grab touch-none items-center rounded border px-1 text-2xs',
            r.p.critical ? 'border-accent bg-accent text-on-accent' : 'border-accent bg-accent-soft',
          ]"
          :style="extent(r)"
          :data-hint="about(r)"
          :data-task="r.task['name']"
          @pointerdown="begin($event, r.task.id, 'move')"
        >
          <span class="truncate">{{ r.task['on'] ? '⚑ ' : '' }}{{ r.task['resource'] }}</span>
          <span
            class="absolute inset-y-0 right-0 w-1.5 cursor-ew-resize touch-none"
            data-hint="Drag to make it longer or shorter"
            @pointerdown.stop="begin($event, r.task.id, 'end')"
          />
        </div>
      </div>
    </div>
  </div>
</template>
