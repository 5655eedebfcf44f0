<script setup lang="ts">
import { autoUpdate, flip, offset, shift, useFloating } from '@floating-ui/vue'

/**
 * What an element's `data-hint` says, beside it while it is pointed at, focused or touched. One for the whole
 * application: the elements carry the words alone.
 */
const target = shallowRef<HTMLElement | null>(null)
const bubble = useTemplateRef<HTMLElement>('bubble')
const text = ref('')
const id = useId()
const { floatingStyles } = useFloating(target, bubble, {
  placement: 'top',
  strategy: 'fixed',
  middleware: [offset(6), flip(), shift({ padding: 6 })],
  whileElementsMounted: autoUpdate,
})
const hinted = (e: Event) =>
  e.target instanceof Element ? e.target.closest<HTMLElement>('[data-hint]:not([data-hint=""])') : null
function show(el: HTMLElement | null): void {
  if (target.value === el) return
  if (target.value?.getAttribute('aria-describedby') === id) target.value.removeAttribute('aria-describedby')
  target.value = el
  text.value = el?.dataset['hint'] ?? ''
  if (el && !el.hasAttribute('aria-describedby')) el.setAttribute('aria-describedby', id)
}
const later = useTimeoutFn((el: HTMLElement) => el.isConnected && show(el), 350, { immediate: false })
function settle(el: HTMLElement | null): void {
  later.stop()
  show(el)
}
/** A pointer that rests asks; one that leaves has read. */
useEventListener('pointerover', (e: PointerEvent) => {
  const el = hinted(e)
  if (el === target.value || e.pointerType === 'touch') return
  settle(null)
  if (el) later.start(el)
})
/** A finger has nothing to rest with: it touches. */
useEventListener('pointerdown', (e: PointerEvent) => settle(e.pointerType === 'touch' ? hinted(e) : null))
useEventListener('focusin', (e: FocusEvent) => {
  if (e.target instanceof Element && e.target.matches(':focus-visible')) settle(hinted(e))
})
useEventListener('focusout', () => settle(null))
useEventListener('scroll', () => settle(null), { capture: true, passive: true })
onKeyStroke('Escape', () => settle(null))
const route = useRoute()
watch(
  () => route.fullPath,
  () => settle(null),
)
</script>

<template>
  <Teleport v-if="target" to="body">
    <div
      :id="id"
      ref="bubble"
      role="tooltip"
      class="no-print pointer-events-none z-50 max-w-80 rounded-md bg-ink px-2 py-1 text-xs text-ground shadow"
      :style="floatingStyles"
    >
      {{ text }}
    </div></Teleport
  >
</template>
