<script setup lang="ts">
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
}

const props = defineProps<{
  rungs: LadderRung[]
  showLoad: (si: number) => string
  showReading: (si: number) => string
  current?: number
  selected?: number
  editable?: boolean
}>()
const emit = defineEmits<{ select: [index: number] }>()

const top = computed(() => props.rungs.reduce((m, r) => Math.max(m, r.target, r.reached ?? 0), 1e-9))
const width = (v: number) => `${Math.max(0.6, (100 * Math.max(0, v)) / top.value)}%`
const decisions: Record<string, string> = { waiting: '', going: 'loading', held: 'held', done: 'done', stopped: 'stopped here' }
</script>

<template>
  <ol class="flex flex-col-reverse gap-px" aria-label="Load ladder, first rung at the bottom" reversed>
    <li v-for="(r, i) in rungs" :key="i">
      <component :is="editable ? 'button' : 'div'" :type="editable ? 'button' : undefined" :aria-pressed="editable ? selected === i : undefined" :class="['grid w-full grid-cols-[1.4rem_1fr_auto] items-center gap-2 rounded px-1 py-0.5 text-left', i === current ? 'bg-accent-soft' : '', selected === i ? 'ring-2 ring-accent' : editable ? 'hover:bg-sunk' : '']" @click="editable && emit('select', i)">
        <span class="text-right text-xs text-quiet">{{ i + 1 }}</span>
        <span class="relative block h-6" aria-hidden="true">
          <span :class="['absolute inset-y-1 left-0 rounded-sm border', r.isZero ? 'border-dashed border-quiet' : 'border-accent/50 bg-accent-soft']" :style="{ width: width(r.target) }" />
          <span v-if="r.reached != null" class="absolute inset-y-2 left-0 rounded-sm bg-accent" :style="{ width: width(r.reached) }" />
          <span class="absolute inset-y-0 border-l-2 border-ink" :style="{ left: width(r.target) }" />
        </span>
        <span class="grid grid-cols-[4.6rem_2.6rem_5.2rem] items-baseline gap-x-2 text-right">
          <span class="font-semibold">{{ r.isZero ? 'zero' : showLoad(r.target) }}</span>
          <span class="text-xs text-quiet">{{ Math.round(r.hold) }} s</span>
          <span v-if="r.reading != null" class="text-xs">{{ showReading(r.reading) }}</span>
          <span v-else-if="r.decision && decisions[r.decision]" class="text-xs font-semibold text-accent">{{ decisions[r.decision] }}</span>
          <span v-else-if="r.expected != null && !r.isZero" class="text-xs text-predicted">⋯ {{ showReading(r.expected) }}</span>
          <span v-if="r.calledBy" class="col-span-3 text-xs text-quiet">called by {{ r.calledBy }}</span>
        </span>
      </component>
    </li>
  </ol>
</template>
