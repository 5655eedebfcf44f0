<script setup lang="ts">
import { formatQuantity, type Handle, type Kind, type UnitPreference } from '@hypomet/core'

/** Places of a figure that can be pointed at: dragged, or moved by arrow keys (with Shift ten times as far). */
const props = defineProps<{
  handles: readonly Handle[]
  kind: Kind
  prefer: UnitPreference
  span: readonly [number, number]
  toPixel: (x: number) => number | null
  fromPixel: (pixel: number) => number | null
  top: number
  bottom: number
  /** Settings that stand as they were proposed: dashed. */
  open?: readonly string[] | undefined
}>()
const emit = defineEmits<{ move: [path: string, x: number]; rest: [isDragged: boolean] }>()

const STEPS = 400
const root = useTemplateRef<HTMLDivElement>('root')
const dragged = ref<{ path: string; x: number } | null>(null)
const placed = computed(() =>
  props.handles.flatMap(h => {
    const x = dragged.value?.path === h.path ? dragged.value.x : h.x
    const left = props.toPixel(x)
    return left === null
      ? []
      : [{ ...h, x, left, text: formatQuantity(x, props.kind, { prefer: props.prefer, digits: 5 }) }]
  }),
)

function grab(e: PointerEvent, h: Handle): void {
  const target = e.currentTarget as HTMLElement
  target.setPointerCapture(e.pointerId)
  dragged.value = { path: h.path, x: h.x }
  emit('rest', true)
}
function drag(e: PointerEvent): void {
  if (!dragged.value) return
  const x = props.fromPixel(e.clientX - root.value!.getBoundingClientRect().left)
  if (x === null) return
  dragged.value = { ...dragged.value, x: within(x) }
  emit('move', dragged.value.path, dragged.value.x)
}
function release(): void {
  dragged.value = null
  emit('rest', false)
}
const within = (x: number) => Math.min(props.span[1], Math.max(props.span[0], x))
const KEYS: Record<string, number> = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }
function press(e: KeyboardEvent, h: Handle): void {
  const step = KEYS[e.key]
  if (!step) return
  e.preventDefault()
  emit('move', h.path, within(h.x + (step * (e.shiftKey ? 10 : 1) * (props.span[1] - props.span[0])) / STEPS))
}
</script>

<template>
  <div ref="root" class="pointer-events-none absolute inset-0 overflow-hidden">
    <div
      v-for="h in placed"
      :key="h.path"
      role="slider"
      tabindex="0"
      :aria-label="h.label"
      :aria-valuenow="h.x"
      :aria-valuemin="span[0]"
      :aria-valuemax="span[1]"
      :aria-valuetext="h.text"
      :data-handle="h.path"
      :data-hint="`${h.label}: ${h.text}. Drag it, or move it by the arrow keys.`"
      class="pointer-events-auto absolute -ml-1.5 w-3 cursor-ew-resize touch-none"
      :style="{ left: `${h.left}px`, top: `${top}px`, bottom: `${bottom}px` }"
      @pointerdown.stop.prevent="
        grab($event, h)
        ;($event.currentTarget as HTMLElement).focus()
      "
      @pointermove="drag"
      @pointerup="release"
      @pointercancel="release"
      @keydown="press($event, h)"
    >
      <span
        :class="[
          'absolute inset-y-0 left-1/2 w-0 -translate-x-1/2 border-l-2 border-predicted',
          open?.includes(h.path.split('.')[0]!) ? 'border-dashed' : 'border-solid',
        ]"
      />
      <span class="absolute bottom-0 left-1/2 size-3 -translate-x-1/2 rotate-45 border border-panel bg-predicted" />
    </div>
  </div>
</template>
