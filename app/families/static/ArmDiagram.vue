<script setup lang="ts">
import { formatQuantity, parseSettings, quantity, type PlanView, type QuantityInput, type StaticArticle, type UnitPreference } from '@hypomet/core'
import type { PlanDraft } from '~/composables/usePlanDraft'

/** The arm, its loads and its bent shape at the top rung: everything from the plan's numbers. */
const props = defineProps<{ article: StaticArticle; plan: PlanDraft; view: PlanView; prefer: UnitPreference }>()

const WIDTH = 720
const HEIGHT = 236
const LEFT = 60
const AXIS = 78
const scale = computed(() => (WIDTH - LEFT - 90) / props.article.length)
const px = (x: number) => LEFT + x * scale.value
const heights = computed(() => (props.article.section === 'tube' ? [props.article.rootDiameter, props.article.tipDiameter] : [props.article.rootHeight, props.article.tipHeight]) as [number, number])

const si = (q: unknown) => {
  try {
    return parseSettings(quantity('length'), q as QuantityInput)
  } catch {
    return 0
  }
}
const loads = computed(() => props.plan.loads.map(l => ({ x: si(l.x), share: typeof l.share === 'number' ? l.share : 1 })))
const gaugeAt = computed(() => si(props.plan.deflectionAt))
const tip = computed(() => props.view.expectedSlope * props.view.maxTarget)
/** Outline along the shape; a sag of 0 is the arm at rest. */
const outline = (sag: 0 | 1) => {
  const half = (x: number) => ((heights.value[0] + (heights.value[1] - heights.value[0]) * (x / props.article.length)) / 2) * scale.value
  const y = (p: { deflection: number }) => AXIS + sag * p.deflection * scale.value
  const top = props.view.shape.map(p => `${px(p.x)},${y(p) - half(p.x)}`)
  const bottom = props.view.shape.toReversed().map(p => `${px(p.x)},${y(p) + half(p.x)}`)
  return `M${[...top, ...bottom].join(' L')} Z`
}
const sagAt = (x: number) => {
  const after = props.view.shape.findIndex(p => p.x >= x - 1e-9)
  return (props.view.shape[after === -1 ? props.view.shape.length - 1 : after]?.deflection ?? 0) * scale.value
}
const show = (v: number, kind: 'force' | 'length') => formatQuantity(v, kind, { prefer: props.prefer, digits: 3 })
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" class="h-auto w-full" role="img" :aria-label="`Arm fixed at its root, ${show(view.maxTarget, 'force')} on it, tip expected ${show(tip, 'length')} down`">
    <defs>
      <pattern id="ground" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="1.4" height="7" fill="var(--quiet)" /></pattern>
      <marker id="head" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="8" markerHeight="8" orient="auto"><path d="M0 0 L8 4 L0 8 Z" fill="var(--ink)" /></marker>
    </defs>
    <rect :x="LEFT - 22" :y="AXIS - 46" width="22" height="92" fill="url(#ground)" stroke="var(--quiet)" />
    <path :d="outline(0)" fill="none" stroke="var(--quiet)" stroke-dasharray="1 3" />
    <path :d="outline(1)" fill="var(--accent-soft)" stroke="var(--accent)" stroke-width="1.5" />
    <g v-for="(l, i) in loads" :key="i">
      <line :x1="px(l.x)" :x2="px(l.x)" :y1="AXIS + sagAt(l.x) + 22" :y2="AXIS + sagAt(l.x) + 22 + 52 * Math.sqrt(l.share)" stroke="var(--ink)" stroke-width="2.5" marker-end="url(#head)" />
      <text :x="px(l.x)" :y="AXIS + sagAt(l.x) + 42 + 52 * Math.sqrt(l.share)" text-anchor="middle" class="fill-ink text-[12px] font-semibold">{{ show(l.share * view.maxTarget, 'force') }}</text>
      <text :x="px(l.x)" :y="AXIS + sagAt(l.x) + 56 + 52 * Math.sqrt(l.share)" text-anchor="middle" class="fill-quiet text-[11px]">at {{ show(l.x, 'length') }}</text>
    </g>
    <g>
      <line :x1="px(gaugeAt) + 26" :x2="px(gaugeAt) + 26" :y1="AXIS" :y2="AXIS + sagAt(gaugeAt)" stroke="var(--predicted)" stroke-width="1.6" stroke-dasharray="2 2" />
      <path :d="`M${px(gaugeAt) + 21} ${AXIS} h10 M${px(gaugeAt) + 21} ${AXIS + sagAt(gaugeAt)} h10`" stroke="var(--predicted)" stroke-width="1.6" />
      <text :x="px(gaugeAt) + 34" :y="AXIS - 26" text-anchor="end" class="fill-predicted text-[12px] font-semibold">{{ show(tip, 'length') }} expected</text>
    </g>
    <g :transform="`translate(${px(view.failure.place)} ${AXIS - 62})`">
      <path d="M0 14 l-5 -9 h10 z" fill="var(--open)" />
      <text x="9" y="9" class="fill-open text-[11px]">expected to end here ({{ view.failure.mode }})</text>
    </g>
    <path :d="`M${px(0)} ${AXIS + 66} v8`" fill="none" stroke="var(--quiet)" />
    <text :x="px(0) + 8" :y="AXIS + 84" class="fill-quiet text-[11px]">{{ show(article.length, 'length') }} from root to tip</text>
  </svg>
</template>
