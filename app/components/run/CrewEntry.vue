<script setup lang="ts">
import { parseSettings, quantity, type Kind, type QuantityInput } from '@hypomet/core'
import type { ConsoleView } from '~/composables/run/useConsole'

/**
 * Readings as they are shouted, by keys alone: type, Tab, and Enter writes them all down. The load is that of the rung
 * where nobody reads it.
 */
const props = defineProps<{ console: ConsoleView }>()
const emit = defineEmits<{ read: [readings: Record<string, number>] }>()
const { units } = useTest()
const { view, phase, target, showLoad } = props.console
const read = computed(() => view.value.channels.filter(c => c.expression === null))
const typed = reactive<Record<string, QuantityInput | null>>({})
const first = useTemplateRef<HTMLElement>('first')
const sensorU = (role: string) => view.value.channels.find(c => c.role === role)?.U ?? null
const isEmpty = computed(() => read.value.every(c => typed[c.role] == null))

function write(): void {
  if (isEmpty.value) return
  emit(
    'read',
    Object.fromEntries(
      read.value.flatMap(c =>
        typed[c.role] == null ? [] : [[c.role, parseSettings(quantity(c.kind), typed[c.role]!)]],
      ),
    ),
  )
  for (const c of read.value) typed[c.role] = null
  void focus()
}
/** The hands stay on the keys: the first field that is to be read. */
const focus = () =>
  nextTick(() =>
    first.value?.querySelectorAll('input')[read.value.findIndex(c => c.role !== view.value.commanded.role)]?.focus(),
  )
onMounted(focus)
watch(phase, focus)
function uncertaintyWords(role: string, kind: Kind): string {
  const u = sensorU(role)
  return u === null
    ? 'no sensor named: no uncertainty'
    : `± ${units.show(u, kind, { digits: 2, difference: true })} by its sensor`
}
</script>

<template>
  <form
    ref="first"
    class="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-1"
    aria-label="Read by hand"
    @submit.prevent="write"
  >
    <p class="text-lg">
      {{
        phase === 'ramp'
          ? target === 0
            ? 'Take the load off, let it settle, then read.'
            : `Put on ${showLoad(target)}, let it settle, then read.`
          : phase === 'unloading'
            ? 'Take the load off, then read once more.'
            : 'Read as often as you like; each reading stands until the next.'
      }}
    </p>
    <div class="grid grid-cols-2 gap-3">
      <div v-for="c in read" :key="c.role">
        <QuantityField
          v-model="typed[c.role]"
          class="[&_input]:h-14 [&_input]:text-2xl"
          :kind="c.kind"
          :prefer="units.prefer.value"
          :label="c.role === view.commanded.role ? `${c.label}, if it is read` : c.label"
          optional
        />
        <p class="text-xs text-quiet">
          {{ uncertaintyWords(c.role, c.kind) }}
        </p>
      </div>
    </div>
    <button class="button-main self-start px-6 py-3 text-lg" :disabled="isEmpty">
      Write down <span class="key">Enter</span>
    </button>
  </form>
</template>
