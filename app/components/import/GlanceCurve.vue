<script setup lang="ts">
import type { Glance } from '@hypomet/core'

/** A column as a small curve over its rows, between its least and its largest. */
const props = withDefaults(defineProps<{ curve: Glance; width?: number; height?: number }>(), {
  width: 150,
  height: 28,
})
const PAD = 2
/** Pieces between gaps. */
const paths = computed(() => {
  const seen = props.curve.filter(v => v !== null)
  const [least, most] = [Math.min(...seen), Math.max(...seen)]
  const x = (i: number) => PAD + (i * (props.width - 2 * PAD)) / Math.max(1, props.curve.length - 1)
  const y = (v: number) => props.height - PAD - ((v - least) * (props.height - 2 * PAD)) / (most - least || 1)
  const pieces: string[] = []
  props.curve.forEach((v, i) => {
    if (v === null) return
    const at = `${x(i).toFixed(1)} ${y(v).toFixed(1)}`
    if (i === 0 || props.curve[i - 1] === null) pieces.push(`M${at}`)
    else pieces[pieces.length - 1] += ` L${at}`
  })
  return pieces.join(' ')
})
</script>

<template>
  <svg :width="width" :height="height" :viewBox="`0 0 ${width} ${height}`" class="block text-accent" aria-hidden="true">
    <path :d="paths" fill="none" stroke="currentColor" stroke-width="1.2" stroke-linejoin="round" />
  </svg>
</template>
