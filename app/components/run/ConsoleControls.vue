<script setup lang="ts">
import {
  Camera,
  Crosshair,
  CirclePause,
  CirclePlay,
  Flag,
  Megaphone,
  Square,
  Timer,
  TriangleAlert,
  Unlink,
  Volume2,
  VolumeX,
} from '@lucide/vue'
import { LOADED_SHARE, parseSettings, quantity, type HypometError, type QuantityInput } from '@hypomet/core'
import type { ConsoleView } from '~/composables/run/useConsole'
import type { LiveView } from '~/composables/run/useLiveRun'

/** Everything that can be done to a run: with the mouse alone, or with keys alone. */
const props = defineProps<{
  runId: number
  live: LiveView
  console: ConsoleView
  rehearsal?: boolean
  byHand?: boolean
  source?: string
  voice: boolean
  problem: HypometError | null
}>()
const emit = defineEmits<{ send: [command: string, more?: object]; turn: []; voice: [on: boolean] }>()
const { page, units } = useTest()
const { view, phase, load, labelOf } = props.console
const person = usePerson()
const controller = computed(() => props.live.now.value?.controller ?? '')
const hasControls = computed(() => controller.value === person.value)
/** Those to whom they can be passed: who looks on, and who the plan names. */
const others = computed(() =>
  [
    ...new Set([
      ...(props.live.now.value?.watching ?? []),
      ...((page.value.test.plan?.['people'] ?? []) as { name: string }[]).map(p => p.name),
    ]),
  ].filter(n => n !== '' && n !== controller.value && n !== 'unnamed'),
)
const pass = (e: Event) => {
  const select = e.target as HTMLSelectElement
  if (select.value) emit('send', 'pass', { to: select.value })
  select.value = ''
}

/** A reading as it was shouted, typed beside the gauge's own; and what was said with it. */
const shouted = ref<QuantityInput | null>(null)
const words = ref('')
function callOut(): void {
  emit('send', 'call-out', {
    note: words.value.trim(),
    ...(shouted.value === null ? {} : { value: parseSettings(quantity(view.value.read.kind), shouted.value) }),
  })
  shouted.value = null
  words.value = ''
  dialog.value = null
}
/** The largest load that was called out. */
const lastCalled = computed(() => {
  const called = props.live.events.value.flatMap(e =>
    e.kind === 'call-out' && e.role && e.value !== null ? [e.value] : [],
  )
  return called.length > 0 ? Math.max(...called) : null
})
const mayBreak = computed(() => props.byHand === true || props.source === 'stream')
function broke(seen: object): void {
  emit('send', 'broke', seen)
  dialog.value = null
}

const dialog = ref<'call-out' | 'broke' | 'deviation' | 'stop' | 'resume' | 'tare' | null>(null)
const deviation = reactive({ size: 0 as QuantityInput, note: '' })
function deviate(): void {
  emit('send', 'deviation', {
    value: parseSettings(quantity(view.value.commanded.kind), deviation.size),
    note: deviation.note,
  })
  dialog.value = null
}
const why = ref('')
function stop(): void {
  emit('send', 'stop', { note: why.value })
  dialog.value = null
  why.value = ''
}
/** Asked after the unloading has begun: it never stands in its way. */
const asksWhy = computed(
  () => phase.value === 'unloading' && !props.live.events.value.some(e => e.kind === 'reason' || e.kind === 'stop'),
)
function giveReason(): void {
  emit('send', 'reason', { note: why.value })
  why.value = ''
}

const attachments = useAttachmentsStore()
const { busy, problem: photoProblem, run } = useAction()
const takePhoto = (files: File[]) =>
  run(async () => {
    for (const file of files) {
      await attachments.attach({ entity: 'test', id: page.value.test.id, tag: 'run' }, file)
      emit('send', 'photo', { note: file.name })
    }
  })

const BASELINE = 10
const mayCount = computed(() => phase.value === 'waiting' || phase.value === 'hold')
const hold = () => (phase.value === 'paused' ? (dialog.value = 'resume') : emit('send', 'hold'))
function resume(): void {
  dialog.value = null
  emit('send', 'resume')
}
const keys: Record<string, () => unknown> = {
  c: () => (dialog.value = 'call-out'),
  g: () => phase.value === 'waiting' && emit('send', 'go'),
  m: () => emit('send', 'mark'),
  h: hold,
  s: () => (dialog.value = 'stop'),
  b: () => mayBreak.value && (dialog.value = 'broke'),
  k: () => mayCount.value && emit('send', 'count-down', { seconds: BASELINE }),
  v: () => emit('turn'),
}
onKeyStroke(Object.keys(keys), e => {
  if (isTyping(e) || e.repeat || e.ctrlKey || e.metaKey || e.altKey || dialog.value !== null) return
  e.preventDefault()
  keys[e.key]!()
})
// Heard while somebody types as well; so is the abort, on every page.
onKeyStroke('F8', e => {
  e.preventDefault()
  if (!e.repeat) keys['h']!()
})
/** A zero is taken by name; with a load on it is asked first. */
function tare(): void {
  if (Math.abs(load.value) > LOADED_SHARE * view.value.maxTarget) dialog.value = 'tare'
  else emit('send', 'tare')
}
function tareLoaded(): void {
  emit('send', 'tare', { value: 1 })
  dialog.value = null
}
const taredWords = computed(() => {
  const at = props.live.now.value?.tared
  return at === null || at === undefined ? 'No zero is taken yet' : `Zero taken at ${clockText(at)}; take it anew`
})
const small = 'button px-2 py-1 text-sm'

function askDeviation(): void {
  dialog.value = 'deviation'
  deviation.note = ''
}
const resumeWords = computed(() => {
  const { kind, role } = view.value.commanded
  const on = units.show(load.value, kind, { digits: 3 })
  const standoff = units.show(view.value.standoff, 'length', { unit: 'm', digits: 2 })
  return `${on} ${kind === 'force' ? 'are' : 'is'} on ${labelOf(role).toLowerCase()}. Nobody within ${standoff}?`
})
</script>

<template>
  <section
    :class="[
      'grid grid-cols-2 gap-2 max-lg:sticky',
      'max-lg:bottom-0 max-lg:z-10 max-lg:bg-ground max-lg:py-2 lg:grid-cols-[1fr_1fr_1fr_1.2fr_1.3fr]',
    ]"
    aria-label="Controls"
  >
    <div class="col-span-full flex flex-wrap items-center gap-x-2 gap-y-1 text-sm">
      <button v-if="phase === 'waiting'" type="button" :class="small" @click="dialog = 'call-out'">
        <Megaphone class="size-4" aria-hidden="true" />Call out <span class="key">c</span>
      </button>
      <button type="button" :class="small" @click="askDeviation()">
        <TriangleAlert class="size-4" aria-hidden="true" />Unplanned load …
      </button>
      <FilePicker
        v-if="!rehearsal"
        :class="[small, busy ? 'opacity-50' : '']"
        label="Photo for the record"
        accept="image/*"
        capture="environment"
        multiple
        @files="takePhoto"
        ><Camera class="size-4" aria-hidden="true" />Photo</FilePicker
      >
      <button
        type="button"
        :class="small"
        :disabled="!mayCount"
        @click="emit('send', 'count-down', { seconds: BASELINE })"
      >
        <Timer class="size-4" aria-hidden="true" />Cameras: {{ BASELINE }} s, then load <span class="key">k</span>
      </button>
      <button
        v-if="source === 'stream' || byHand"
        type="button"
        :class="small"
        :disabled="phase !== 'ramp' && phase !== 'unloading'"
        @click="emit('send', 'reached')"
      >
        {{ phase === 'unloading' ? 'The load is off' : 'The load is on' }}
      </button>
      <button v-if="!byHand" type="button" :class="small" :data-hint="taredWords" @click="tare">
        <Crosshair class="size-4" aria-hidden="true" />Tare
      </button>
      <button type="button" :class="small" :aria-pressed="voice" @click="emit('voice', !voice)">
        <Volume2 v-if="voice" class="size-4" aria-hidden="true" /><VolumeX v-else class="size-4" aria-hidden="true" />{{
          voice ? 'Spoken' : 'Silent'
        }}
      </button>
      <strong v-if="rehearsal" class="text-open"
        >Rehearsal on the simulated rig: nothing of it enters the record.</strong
      >
      <span class="ml-auto"
        >Controls: <strong data-testid="controller">{{ controller || 'nobody' }}</strong></span
      >
      <button v-if="!hasControls" type="button" :class="small" @click="emit('send', 'take')">Take the controls</button>
      <select
        v-else-if="others.length > 0"
        class="field w-auto py-1 text-sm"
        aria-label="Pass the controls to"
        @change="pass"
      >
        <option value="">pass to …</option>
        <option v-for="n in others" :key="n" :value="n">{{ n }}</option>
      </select>
      <form v-if="asksWhy" class="flex basis-full items-center gap-2" @submit.prevent="giveReason">
        <label class="flex flex-1 items-center gap-2 whitespace-nowrap"
          >Why it ended, for the record <input v-model="why" class="field" /></label
        ><button :class="small" :disabled="why.trim() === ''">Write it down</button>
      </form>
    </div>
    <button v-if="phase === 'waiting'" type="button" class="button-main py-2.5 text-lg" @click="emit('send', 'go')">
      <CirclePlay class="size-6" aria-hidden="true" />Go{{ person ? `, says ${person}` : '' }}
      <span class="key">g</span>
    </button>
    <button v-else type="button" class="button py-2.5 text-lg" @click="dialog = 'call-out'">
      <Megaphone class="size-6" aria-hidden="true" />Call out <span class="key">c</span>
    </button>
    <button type="button" class="button py-2.5 text-lg" @click="emit('send', 'mark')">
      <Flag class="size-6" aria-hidden="true" />Mark <span class="key">m</span>
    </button>
    <button type="button" class="button py-2.5 text-lg" @click="hold">
      <CirclePlay v-if="phase === 'paused'" class="size-6" aria-hidden="true" /><CirclePause
        v-else
        class="size-6"
        aria-hidden="true"
      />{{ phase === 'paused' ? 'Go on' : 'Hold' }} <span class="key">h</span><span v-if="byHand" class="key">F8</span>
    </button>
    <div :class="['grid gap-2', mayBreak ? 'grid-cols-2' : '']">
      <button type="button" class="button py-2.5 text-lg" @click="dialog = 'stop'">
        <Square class="size-5" aria-hidden="true" />Stop … <span class="key">s</span>
      </button>
      <button v-if="mayBreak" type="button" class="button py-2.5 text-lg" @click="dialog = 'broke'">
        <Unlink class="size-5" aria-hidden="true" />It broke <span class="key">b</span>
      </button>
    </div>
    <AbortButton class="col-span-2 lg:col-span-1" :run-id="runId" />
    <ProblemNote class="col-span-full" :problem="problem ?? photoProblem" />
    <BrokeDialog
      :open="dialog === 'broke'"
      :console="props.console"
      :last-called="lastCalled"
      @close="dialog = null"
      @broke="broke"
    />
    <BaseDialog
      :open="dialog === 'call-out'"
      title="Call out"
      description="Words or a reading, or both, at this moment of the record."
      @close="dialog = null"
    >
      <form class="space-y-3" @submit.prevent="callOut">
        <label class="block"
          ><span class="label">What was called</span
          ><input v-model="words" v-focus class="field" placeholder="skin wrinkles at the rear spar"
        /></label>
        <QuantityField
          v-if="!byHand"
          v-model="shouted"
          :kind="view.read.kind"
          :prefer="units.prefer.value"
          :label="`${labelOf(view.read.role)}, if it was called`"
          optional
        />
        <div class="flex justify-end gap-2">
          <button type="button" class="button" @click="dialog = null">Nothing</button
          ><button class="button-main">Write it down</button>
        </div>
      </form>
    </BaseDialog>
    <BaseDialog
      :open="dialog === 'deviation'"
      title="Unplanned load"
      description="It is written down with its size before the ladder goes on. Only planned rungs go on the article
        otherwise."
      @close="dialog = null"
    >
      <form class="space-y-3" @submit.prevent="deviate">
        <QuantityField
          v-model="deviation.size as never"
          :kind="view.commanded.kind"
          :prefer="units.prefer.value"
          label="How much"
        />
        <label class="block"
          ><span class="label">What was put on, and by whose word</span><input v-model="deviation.note" class="field"
        /></label>
        <div class="flex justify-end gap-2">
          <button type="button" class="button" @click="dialog = null">Leave it</button
          ><button class="button-main" :disabled="deviation.note.trim() === ''">Write it down</button>
        </div>
      </form>
    </BaseDialog>
    <BaseDialog
      :open="dialog === 'stop'"
      title="Stop here?"
      description="The load comes down as gently as it went up, and the record closes with the reason. An abort
        comes down at once and asks nothing."
      @close="dialog = null"
    >
      <form class="space-y-3" @submit.prevent="stop">
        <label class="block"><span class="label">Why, for the record</span><input v-model="why" class="field" /></label>
        <div class="flex justify-end gap-2">
          <button type="button" class="button" @click="dialog = null">Leave it on</button
          ><button class="button-main" :disabled="why.trim() === ''">Stop and unload</button>
        </div>
      </form>
    </BaseDialog>
    <BaseDialog
      :open="dialog === 'tare'"
      title="A load is on"
      :description="`${units.show(load, view.commanded.kind, { digits: 3 })} is on by the zero that holds. A zero taken
        now takes that off every reading from here on.`"
      @close="dialog = null"
    >
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="tareLoaded">Take it with the load on</button
        ><button type="button" class="button-main" @click="dialog = null">Leave the zero</button>
      </div>
    </BaseDialog>
    <BaseDialog
      :open="dialog === 'resume'"
      title="Go on with the ladder?"
      :description="resumeWords"
      @close="dialog = null"
    >
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="dialog = null">Stay held</button
        ><button type="button" class="button-main" @click="resume">Go on</button>
      </div>
    </BaseDialog>
  </section>
</template>
