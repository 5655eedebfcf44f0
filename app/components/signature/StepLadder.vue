<script setup lang="ts">
import { Eye, GripVertical } from '@lucide/vue'

/** Load rungs drawn upward: target, hold, what was expected and what was reached. The same in Plan, Run and Reduce. */
export interface LadderRung {
  target: number
  hold: number
  isZero: boolean
  expected?: number | null
  reached?: number | null
  reading?: number | null
  calledBy?: string
  decision?: 'waiting' | 'going' | 'held' | 'done' | 'stopped'
  /** Loaded so many times. */
  times?: number
  /** Somebody looks before it goes on. */
  look?: boolean
  support?: 'in' | 'out' | null
  /** What is set for it: bags, a pressure. */
  set?: string
  wrong?: boolean
}

const props = defineProps<{
  rungs: LadderRung[]
  showLoad: (si: number) => string
  showReading: (si: number) => string
  current?: number
  selected?: number
  editable?: boolean
}>()
const emit = defineEmits<{
  select: [index: number]
  drag: [index: number, target: number]
  key: [event: KeyboardEvent]
}>()

const highest = computed(() => props.rungs.reduce((m, r) => Math.max(m, r.target, r.reached ?? 0), 1e-9))
/** While a bar is dragged the scale stands still. */
const held = ref<{ index: number; top: number; left: number; width: number } | null>(null)
const top = computed(() => held.value?.top ?? highest.value)
const width = (v: number) => `${Math.min(104, Math.max(0.6, (100 * Math.max(0, v)) / top.value))}%`
const anySet = computed(() => props.rungs.some(r => r.set))
const decisions: Record<string, string> = {
  waiting: '',
  going: 'loading',
  held: 'held',
  done: 'done',
  stopped: 'stopped here',
}

function grab(e: PointerEvent, index: number): void {
  const track = (e.currentTarget as HTMLElement).parentElement!.getBoundingClientRect()
  held.value = { index, top: highest.value, left: track.left, width: track.width }
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
  emit('select', index)
}
function pull(e: PointerEvent): void {
  if (!held.value) return
  const share = Math.max(0, (e.clientX - held.value.left) / held.value.width)
  // In hundredths of the highest rung: nobody drags finer than that.
  emit('drag', held.value.index, (Math.round(share * 100) / 100) * held.value.top)
}
</script>

<template>
  <ol
    class="flex flex-col-reverse gap-px"
    aria-label="Load ladder, first rung at the bottom"
    reversed
    @keydown="editable && emit('key', $event)"
  >
    <li v-for="(r, i) in rungs" :key="i" :data-rung="i + 1">
      <component
        :is="editable ? 'button' : 'div'"
        :type="editable ? 'button' : undefined"
        :aria-pressed="editable ? selected === i : undefined"
        :class="[
          'grid w-full grid-cols-[1.4rem_1fr_auto] items-center gap-2 rounded px-1 py-0.5 text-left',
          i === current ? 'bg-accent-soft' : '',
          selected === i ? 'ring-2 ring-accent' : editable ? 'hover:bg-sunk' : '',
        ]"
        @click="editable && emit('select', i)"
      >
        <span :class="['text-right text-xs', r.wrong ? 'font-bold text-fail' : 'text-quiet']"
          >{{ i + 1 }}{{ r.wrong ? ' !' : '' }}</span
        >
        <span class="relative block h-6" aria-hidden="true">
          <span
            :class="[
              'absolute inset-y-1 left-0 rounded-sm border',
              r.isZero
                ? 'border-dashed border-quiet'
                : r.wrong
                  ? 'border-fail bg-accent-soft'
                  : 'border-accent/50 bg-accent-soft',
            ]"
            :style="{ width: width(r.target) }"
          />
          <span
            v-if="r.reached != null"
            class="absolute inset-y-2 left-0 rounded-sm bg-accent"
            :style="{ width: width(r.reached) }"
          />
          <span class="absolute inset-y-0 border-l-2 border-ink" :style="{ left: width(r.target) }" />
          <span
            v-if="editable && !r.isZero"
            :class="[
              'absolute inset-y-0 -ml-1.5 flex w-4',
              'cursor-ew-resize touch-none items-center justify-center text-quiet',
            ]"
            data-handle
            :style="{ left: width(r.target) }"
            @pointerdown.stop.prevent="grab($event, i)"
            @pointermove="pull"
            @pointerup="held = null"
            @pointercancel="held = null"
            ><GripVertical class="size-3 bg-panel/80"
          /></span>
          <span class="absolute inset-y-0 left-1 flex items-center gap-1 text-2xs text-quiet">
            <span v-if="(r.times ?? 1) > 1">×{{ r.times }}</span
            ><Eye v-if="r.look" class="size-3.5 text-ink" /><span v-if="r.support">support {{ r.support }}</span>
          </span>
        </span>
        <span
          :class="[
            'grid items-baseline gap-x-2 text-right',
            anySet ? 'grid-cols-[4.4rem_4.6rem_2.6rem_5rem]' : 'grid-cols-[4.6rem_2.6rem_5.2rem]',
          ]"
        >
          <span v-if="anySet" class="text-xs text-quiet">{{ r.set }}</span>
          <span class="font-semibold">{{ r.isZero ? 'zero' : showLoad(r.target) }}</span>
          <span class="text-xs text-quiet">{{ Math.round(r.hold) }} s</span>
          <span v-if="r.reading != null" class="text-xs">{{ showReading(r.reading) }}</span>
          <span v-else-if="r.decision && decisions[r.decision]" class="text-xs font-semibold text-accent">{{
            decisions[r.decision]
          }}</span>
          <span v-else-if="r.expected != null && !r.isZero" class="text-xs text-predicted"
            >⋯ {{ showReading(r.expected) }}</span
          >
          <span v-if="r.calledBy" class="col-span-full text-xs text-quiet">called by {{ r.calledBy }}</span>
        </span>
      </component>
    </li>
  </ol>
</template>
