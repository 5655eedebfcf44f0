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

const readings = computed((): Record<string, number> =>
  Object.fromEntries(
    read.value.flatMap(c => (typed[c.role] == null ? [] : [[c.role, parseSettings(quantity(c.kind), typed[c.role]!)]])),
  ),
)
/** What its gauge cannot read: asked once before it is taken. */
const beyond = computed(() =>
  read.value.filter(c => c.fullScale !== null && Math.abs(readings.value[c.role] ?? 0) > c.fullScale),
)
const isAsked = ref(false)
watch(readings, () => (isAsked.value = false))

function write(): void {
  if (isEmpty.value) return
  if (beyond.value.length > 0 && !isAsked.value) return void (isAsked.value = true)
  emit('read', readings.value)
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
    <p
      v-for="c in isAsked ? beyond : []"
      :key="c.role"
      role="alert"
      class="text-lg font-semibold text-open"
      data-beyond
    >
      {{ c.label }}: {{ units.show(readings[c.role]!, c.kind, { digits: 4 }) }} is beyond the
      {{ units.show(c.fullScale!, c.kind, { digits: 3 }) }} of its gauge. Was it read like that? Enter once more writes
      it down; else mend it.
    </p>
    <button class="button-main self-start px-6 py-3 text-lg" :disabled="isEmpty">
      {{ isAsked ? 'It was: write it down' : 'Write down' }} <span class="key">Enter</span>
    </button>
  </form>
</template>
