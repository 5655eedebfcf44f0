<script setup lang="ts">
import { TriangleAlert } from '@lucide/vue'
import { CONTROLS, isControlled, type ControlId, type HazardView, type UnitPreference } from '@hypomet/core'

/** What can hurt people in this test, with the number behind it, and what is done about each. */
interface Answer {
  controls?: ControlId[]
  other?: string
  note?: string
}
interface Further {
  title: string
  control?: string
}
const answers = defineModel<Record<string, Answer>>('answers', { required: true })
const further = defineModel<Further[]>('further', { required: true })
const props = defineProps<{ hazards: HazardView[]; caution: string; prefer: UnitPreference; fixed: boolean }>()
const show = (v: number, kind: 'energy' | 'length') =>
  useUnits('metric').show(v, kind, kind === 'length' ? { unit: 'm', digits: 2 } : { prefer: props.prefer, digits: 3 })
const found = computed(() => props.hazards.filter(h => !h.id.startsWith('further.')))
const all = Object.keys(CONTROLS) as ControlId[]
const ordered = (h: HazardView) => [
  ...h.suggested,
  ...all.filter(c => h.controls.includes(c) && !h.suggested.includes(c)),
]
function toggle(h: HazardView, c: ControlId, on: boolean): void {
  const now = answers.value[h.id] ?? {}
  const controls = (now.controls ?? []).filter(x => x !== c)
  answers.value = { ...answers.value, [h.id]: { ...now, controls: on ? [...controls, c] : controls } }
}
const say = (h: HazardView, key: 'other' | 'note', value: string) => {
  answers.value = { ...answers.value, [h.id]: { ...answers.value[h.id], [key]: value } }
}
</script>

<template>
  <div class="space-y-3">
    <p class="flex items-start gap-2 rounded-md bg-caution-ground px-3 py-2 text-caution">
      <TriangleAlert class="mt-0.5 size-4 shrink-0" aria-hidden="true" />{{ caution }}
    </p>
    <div class="grid grid-cols-2 gap-3">
      <fieldset
        v-for="h in found"
        :key="h.id"
        :class="['rounded-lg border p-3', isControlled(h) ? 'border-line' : 'border-fail']"
        :disabled="fixed"
        :data-hazard="h.id"
      >
        <legend class="px-1 font-semibold">
          {{ h.title
          }}<span v-if="!isControlled(h)" class="ml-2 text-xs font-normal text-fail">nothing is done about it yet</span>
        </legend>
        <p class="flex gap-6">
          <span v-if="h.energy !== null"
            ><span class="text-xl font-bold">{{ show(h.energy, 'energy') }}</span
            >{{ ' ' }} <span class="text-xs text-quiet">stored</span></span
          ><span v-if="h.standoff !== null"
            ><span class="text-xl font-bold">{{ show(h.standoff, 'length') }}</span
            >{{ ' ' }} <span class="text-xs text-quiet">stand-off at least</span></span
          >
        </p>
        <p class="mb-1 text-sm text-quiet">{{ h.why }}</p>
        <div class="flex flex-wrap gap-x-4 gap-y-1">
          <label v-for="c in ordered(h)" :key="c" class="flex items-center gap-1 text-sm" :data-hint="CONTROLS[c].why"
            ><input
              type="checkbox"
              :checked="h.controls.includes(c)"
              @change="toggle(h, c, ($event.target as HTMLInputElement).checked)"
            />{{ CONTROLS[c].title }}</label
          >
        </div>
        <div class="mt-2 grid grid-cols-2 gap-2">
          <PlainField
            :model-value="h.other"
            :label="`Something else against: ${h.title.toLowerCase()}`"
            @update:model-value="say(h, 'other', $event)"
          /><PlainField :model-value="h.note" label="Note" @update:model-value="say(h, 'note', $event)" />
        </div>
      </fieldset>
    </div>
    <fieldset :disabled="fixed">
      <legend class="label">Further hazards of this set-up</legend>
      <div v-for="(f, i) in further" :key="i" class="mb-1 grid grid-cols-[1fr_1fr_auto] items-end gap-2">
        <PlainField
          :model-value="f.title"
          :label="`Hazard ${i + 1}`"
          @update:model-value="further = further.with(i, { ...f, title: $event })"
        />
        <PlainField
          :model-value="f.control ?? ''"
          :label="`What is done about hazard ${i + 1}`"
          @update:model-value="further = further.with(i, { ...f, control: $event })"
        />
        <button type="button" class="button text-xs" @click="further = further.toSpliced(i, 1)">Remove</button>
      </div>
      <button type="button" class="button text-xs" @click="further = [...further, { title: 'New hazard' }]">
        Another hazard
      </button>
    </fieldset>
  </div>
</template>
