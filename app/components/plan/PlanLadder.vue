<script setup lang="ts">
import { ArrowDown, ArrowUp, Redo2, Undo2, WandSparkles } from '@lucide/vue'
import {
  inUnit,
  preferredUnit,
  type Finding,
  type Kind,
  type PlanView,
  type QuantityInput,
  type UnitPreference,
} from '@hypomet/core'
import { copyOf, type PlanDraft, type RungDraft } from '~/composables/plan/usePlanDraft'

/** The ladder of a plan: written by a rule, then by typing, keys and drag. */
const rungs = defineModel<RungDraft[]>({ required: true })
const props = defineProps<{
  view: PlanView | null
  prefer: UnitPreference
  fixed: boolean
  further: { name: string; kind: Kind }[]
  problemAt: (path: string) => string | undefined
  history: { undo: () => void; redo: () => void; canUndo: { value: boolean }; canRedo: { value: boolean } }
  findings: Finding[]
  goal: number
  goals: { label: string; value: number }[]
}>()
const emit = defineEmits<{ rule: [rungs: PlanDraft['rungs']] }>()
const selected = ref(1)
const rung = computed(() => rungs.value[selected.value])
const ruling = ref(false)
const kind = computed(() => props.view?.commanded.kind ?? 'force')
const unit = computed(() => preferredUnit(kind.value, { prefer: props.prefer }))
const show = (v: number, of: Kind, digits = 3) => useUnits('metric').show(v, of, { prefer: props.prefer, digits })

/** What the crew sets at a rung, in words: the first column of the loading that is shown. */
function setWords(climbed: number): string {
  const column = props.view?.loading.set.find(c => c.shown)
  const set = column?.values[climbed]
  if (!column || set == null) return ''
  if (column.kind === 'count') return `${set} ${column.label.toLowerCase().replace(/ on$/, '')}`
  return typeof set === 'string' ? set : show(set, column.kind as Kind)
}
const isStopped = (i: number) =>
  props.findings.some(f => f.severity === 'stop' && f.path.startsWith(`rungs.${i}.`)) ||
  props.problemAt(`rungs.${i}.target`) !== undefined
/** What is commanded is no reading to expect. */
const isReadApart = computed(() => props.view?.read.role !== props.view?.commanded.role)
const ladder = computed(() =>
  rungs.value.map((r, i) => {
    const climbed = props.view?.rungs.findIndex(v => v.source === i && v.cycle === 1) ?? -1
    const v = props.view?.rungs[climbed]
    return {
      target: v?.target ?? 0,
      hold: v?.hold ?? 0,
      isZero: v?.isZero ?? false,
      expected: isReadApart.value ? (v?.expectedReading ?? null) : null,
      times: r.cycles ?? 1,
      look: r.decision ?? false,
      support: r.support ?? null,
      set: v && !v.isZero ? setWords(climbed) : '',
      wrong: isStopped(i),
    }
  }),
)
const rate = computed(() => {
  const v = props.view?.rungs.find(r => r.source === selected.value && r.cycle === 1)
  return v && v.rate !== 0 ? `${show(Math.abs(v.rate), kind.value)}/s over ${Math.round(v.ramp)} s` : ''
})
const takeOff = computed(
  () => props.view?.rungs.find(r => r.source === selected.value && r.takeOff.length > 0)?.takeOff ?? [],
)
const here = computed(() => props.findings.filter(f => f.path.startsWith(`rungs.${selected.value}.`)))

function change(values: Partial<RungDraft>): void {
  const next = { ...rung.value!, ...values }
  for (const key of Object.keys(next) as (keyof RungDraft)[])
    if (next[key] === undefined || next[key] === null) Reflect.deleteProperty(next, key)
  rungs.value = rungs.value.with(selected.value, next)
}
function setFurther(k: number, value: QuantityInput | null): void {
  const also = props.further.map((_, j) => rung.value!.also?.[j] ?? 0)
  also[k] = value ?? 0
  change({ also })
}
function add(): void {
  rungs.value = rungs.value.toSpliced(selected.value + 1, 0, copyOf(rung.value!))
  selected.value++
}
function remove(): void {
  if (rungs.value.length <= 2) return
  rungs.value = rungs.value.toSpliced(selected.value, 1)
  selected.value = Math.max(0, Math.min(selected.value, rungs.value.length - 1))
}
function move(by: 1 | -1): void {
  const to = selected.value + by
  if (to < 0 || to >= rungs.value.length) return
  const next = [...rungs.value]
  ;[next[selected.value], next[to]] = [next[to]!, next[selected.value]!]
  rungs.value = next
  selected.value = to
}
function drag(index: number, target: number): void {
  const value = inUnit(target, kind.value, unit.value)
  rungs.value = rungs.value.with(index, {
    ...rungs.value[index]!,
    target: { value: Number(value.toPrecision(3)), unit: unit.value },
  })
}
/** A hundredth of the highest rung at a time, or a twentieth with shift. */
function nudge(by: number): void {
  const v = props.view
  if (v) drag(selected.value, Math.max(0, ladder.value[selected.value]!.target + by * v.maxTarget))
}
const list = useTemplateRef<HTMLElement>('list')
function onKey(e: KeyboardEvent): void {
  const step = e.shiftKey ? 0.05 : 0.01
  const does: Record<string, () => void> = {
    ArrowUp: () => (e.altKey ? move(1) : (selected.value = Math.min(rungs.value.length - 1, selected.value + 1))),
    ArrowDown: () => (e.altKey ? move(-1) : (selected.value = Math.max(0, selected.value - 1))),
    ArrowRight: () => nudge(step),
    ArrowLeft: () => nudge(-step),
    Insert: add,
    Delete: remove,
  }
  if (!does[e.key]) return
  e.preventDefault()
  does[e.key]!()
  void nextTick(() => list.value?.querySelector<HTMLElement>(`[data-rung="${selected.value + 1}"] button`)?.focus())
}

function takeRungs(written: PlanDraft['rungs']): void {
  emit('rule', written)
  ruling.value = false
  selected.value = 1
}
</script>

<template>
  <section ref="list" class="panel">
    <div class="mb-1 flex items-center justify-between gap-2">
      <h2>Load ladder</h2>
      <div v-if="!fixed" class="flex gap-1 text-xs">
        <button type="button" class="button px-1.5" @click="ruling = true">
          <WandSparkles class="size-3.5" aria-hidden="true" />By a rule
        </button>
        <button
          type="button"
          class="button px-1.5"
          :disabled="!history.canUndo.value"
          data-hint="Undo (Ctrl Z)"
          aria-label="Undo"
          @click="history.undo()"
        >
          <Undo2 class="size-3.5" aria-hidden="true" />
        </button>
        <button
          type="button"
          class="button px-1.5"
          :disabled="!history.canRedo.value"
          data-hint="Redo"
          aria-label="Redo"
          @click="history.redo()"
        >
          <Redo2 class="size-3.5" aria-hidden="true" />
        </button>
      </div>
    </div>
    <div class="max-h-72 overflow-y-auto" tabindex="-1">
      <StepLadder
        :rungs="ladder"
        :show-load="v => show(v, kind)"
        :show-reading="v => show(v, view!.read.kind)"
        :editable="!fixed"
        :selected="fixed ? undefined : selected"
        @select="selected = $event"
        @drag="drag"
        @key="onKey"
      />
    </div>
    <p class="mt-1 text-xs text-quiet">
      First rung at the bottom{{ view ? ` · ${Math.round(view.duration / 60)} min in all` : ''
      }}<template v-if="view && view.rungs.length > rungs.length"> · {{ view.rungs.length }} rungs with cycles</template
      >.
      <span v-if="view && view.read.role !== view.commanded.role" class="text-predicted"
        >⋯ expected {{ view.read.role }}</span
      >
    </p>
    <div v-if="!fixed && rung" class="mt-2 space-y-2 border-t border-line pt-2">
      <div class="grid grid-cols-[1.2fr_0.8fr_1fr_0.6fr] items-start gap-2">
        <QuantityField
          :model-value="rung.target"
          kind="any"
          keep-unit
          :prefer="prefer"
          :label="`Rung ${selected + 1}: target`"
          :problem="problemAt(`rungs.${selected}.target`)"
          @update:model-value="change({ target: $event ?? 0 })"
        />
        <QuantityField
          :model-value="rung.hold"
          kind="time"
          :prefer="prefer"
          label="Hold"
          :problem="problemAt(`rungs.${selected}.hold`)"
          @update:model-value="change({ hold: $event ?? 0 })"
        />
        <QuantityField
          :model-value="rung.ramp"
          kind="any"
          keep-unit
          :prefer="prefer"
          label="Time or rate to it"
          optional
          :problem="problemAt(`rungs.${selected}.ramp`)"
          @update:model-value="change({ ramp: $event ?? undefined })"
        />
        <QuantityField
          :model-value="rung.cycles ?? 1"
          kind="ratio"
          :prefer="prefer"
          label="Times"
          :problem="problemAt(`rungs.${selected}.cycles`)"
          @update:model-value="change({ cycles: (typeof $event === 'object' ? $event?.value : $event) ?? 1 })"
        />
      </div>
      <div v-if="further.length > 0" class="grid grid-cols-3 gap-2">
        <QuantityField
          v-for="(a, k) in further"
          :key="k"
          :model-value="rung.also?.[k] ?? 0"
          :kind="a.kind"
          :prefer="prefer"
          :label="a.name"
          :problem="problemAt(`rungs.${selected}.also.${k}`)"
          @update:model-value="setFurther(k, $event)"
        />
      </div>
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
        <label class="flex items-center gap-1"
          ><input
            type="checkbox"
            :checked="rung.decision ?? false"
            @change="change({ decision: ($event.target as HTMLInputElement).checked || undefined })"
          />Inspect before the next rung</label
        >
        <label class="flex items-center gap-1"
          >Support<select
            class="field w-auto py-0.5"
            :value="rung.support ?? ''"
            @change="
              change({ support: (($event.target as HTMLSelectElement).value || undefined) as 'in' | 'out' | undefined })
            "
          >
            <option value="">as it is</option>
            <option value="out">out</option>
            <option value="in">in again</option>
          </select></label
        >
        <span class="text-xs text-quiet">{{ rate }}</span>
        <span v-if="takeOff.length > 0" class="text-xs text-open">then take off: {{ takeOff.join(', ') }}</span>
        <span class="ml-auto flex gap-1 text-xs">
          <button
            type="button"
            class="button px-1.5"
            aria-label="Move the rung up"
            data-hint="Later (Alt ↑)"
            @click="move(1)"
          >
            <ArrowUp class="size-3.5" aria-hidden="true" />
          </button>
          <button
            type="button"
            class="button px-1.5"
            aria-label="Move the rung down"
            data-hint="Earlier (Alt ↓)"
            @click="move(-1)"
          >
            <ArrowDown class="size-3.5" aria-hidden="true" />
          </button>
          <button type="button" class="button" @click="add">Add above</button>
          <button type="button" class="button" :disabled="rungs.length <= 2" @click="remove">Remove</button>
        </span>
      </div>
      <p
        v-for="f in here"
        :key="f.code + f.message"
        :class="['text-xs', f.severity === 'stop' ? 'text-fail' : 'text-open']"
      >
        {{ f.message }} {{ f.mend }}
      </p>
    </div>
    <LadderRuleDialog
      :open="ruling"
      :kind="kind"
      :prefer="prefer"
      :goal="goal"
      :goals="goals"
      @close="ruling = false"
      @write="takeRungs"
    />
  </section>
</template>
