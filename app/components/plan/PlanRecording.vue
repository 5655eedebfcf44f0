<script setup lang="ts">
import { Plus } from '@lucide/vue'
import {
  formOf,
  planFields,
  type FormField,
  type HypometError,
  type PlanView,
  type UnitPreference,
} from '@hypomet/core'
import { setPart } from '~/composables/plan/setPart'
import type { PlanDraft } from '~/composables/plan/usePlanDraft'

/** The logger with its data volume, and the cameras with what they see. */
const draft = defineModel<PlanDraft>({ required: true })
const props = defineProps<{
  view: PlanView
  prefer: UnitPreference
  fixed: boolean
  problem: HypometError | null
  places: { place: string; by: string }[]
}>()
const acquisition = formOf(planFields.acquisition)
const one = ((f: FormField): FormField =>
  f.type === 'rows' ? { key: 'camera', title: 'Camera', required: true, type: 'group', fields: f.columns } : f)(
  formOf(planFields.cameras),
)
const cameras = computed(() => (draft.value['cameras'] ?? []) as Record<string, unknown>[])
const set = setPart(draft)
/** A camera to change, looking at every place where something is expected. */
const add = () =>
  set('cameras', [
    ...cameras.value,
    {
      name: `Camera ${cameras.value.length + 1}`,
      sensorWidth: { value: 12.8, unit: 'mm' },
      sensorHeight: { value: 8, unit: 'mm' },
      pixelsWide: 1280,
      pixelsHigh: 800,
      focalLength: { value: 25, unit: 'mm' },
      distance: { value: 2, unit: 'm' },
      frameRate: { value: 1, unit: 'kHz' },
      bytesPerPixel: 1,
      memory: { value: 8, unit: 'GB' },
      preFraction: 0.5,
      places: props.places.map(p => ({ name: p.place, x: { value: 0, unit: 'm' }, y: { value: 0, unit: 'm' } })),
    },
  ])
const bytes = (b: number) => {
  const [n, u] = b >= 1e9 ? [b / 1e9, 'GB'] : b >= 1e6 ? [b / 1e6, 'MB'] : [b / 1e3, 'kB']
  return `${n.toPrecision(3)}\u202f${u}`
}
const share = (v: number | null) => (v === null ? '' : ` (${(100 * v).toFixed(v < 0.01 ? 2 : 0)} %)`)
const show = (v: number, kind: 'length' | 'time' | 'frequency') =>
  useUnits('metric').show(v, kind, { prefer: props.prefer, digits: 3 })
</script>

<template>
  <div class="grid grid-cols-[18rem_1fr] gap-4">
    <section>
      <fieldset :disabled="fixed">
        <SettingsField
          :model-value="draft['acquisition'] ?? {}"
          :field="{ ...acquisition, required: true }"
          path="acquisition"
          :prefer="prefer"
          :problem="problem"
          @update:model-value="set('acquisition', $event)"
        />
      </fieldset>
      <h3 class="label mt-3">Data</h3>
      <dl class="grid grid-cols-2 gap-2">
        <div>
          <dt class="text-xs text-quiet">A second</dt>
          <dd class="font-semibold" data-fact="Byte rate">
            {{ bytes(view.data.byteRate) }}/s{{ share(view.data.networkUse) }}
          </dd>
        </div>
        <div>
          <dt class="text-xs text-quiet">The whole ladder</dt>
          <dd class="font-semibold">{{ bytes(view.data.volume) }}{{ share(view.data.diskUse) }}</dd>
        </div>
      </dl>
      <p v-for="g in view.data.groups" :key="g.rate" class="text-xs text-quiet">
        {{ g.channels }} {{ g.channels === 1 ? 'channel' : 'channels' }} at {{ show(g.rate, 'frequency') }}:
        {{ bytes(g.byteRate) }}/s
      </p>
    </section>
    <section class="min-w-0">
      <p v-if="places.length > 0" class="mb-2 text-sm">
        Expected to fail at:
        <template v-for="(p, i) in places" :key="p.place"
          >{{ i > 0 ? '; ' : '' }}<strong>{{ p.place }}</strong> <span class="text-quiet">({{ p.by }})</span></template
        >
      </p>
      <fieldset v-for="(c, i) in cameras" :key="i" class="mb-3 rounded-lg border border-line p-3" :disabled="fixed">
        <legend class="px-1 font-semibold">{{ c['name'] || 'Camera' }}</legend>
        <p v-if="view.cameras[i]" class="mb-2 text-sm">
          Sees
          <strong
            >{{ show(view.cameras[i]!.fieldWidth, 'length') }} ×
            {{ show(view.cameras[i]!.fieldHeight, 'length') }}</strong
          >, {{ show(view.cameras[i]!.metresPerPixel, 'length') }} a pixel; records
          {{ view.cameras[i]!.recordTime.toPrecision(3) }} s, {{ view.cameras[i]!.preTime.toPrecision(2) }} before and
          {{ view.cameras[i]!.postTime.toPrecision(2) }} after its trigger.
          <template v-for="p in view.cameras[i]!.places" :key="p.name"
            ><span :class="['ml-2', p.covered ? 'text-pass' : 'font-semibold text-fail']"
              >{{ p.name }}: {{ p.covered ? 'in the picture' : 'outside' }}</span
            ></template
          >
        </p>
        <div class="camera-fields">
          <SettingsField
            :model-value="c"
            :field="one"
            :path="`cameras.${i}`"
            :prefer="prefer"
            :problem="problem"
            hide-label
            @update:model-value="set('cameras', cameras.with(i, $event as Record<string, unknown>))"
          />
        </div>
        <button type="button" class="button mt-2 text-xs" @click="set('cameras', cameras.toSpliced(i, 1))">
          Remove this camera
        </button>
      </fieldset>
      <p v-if="cameras.length === 0" class="mb-2 text-sm text-quiet">
        No camera yet. A failure outside the picture is not understood.
      </p>
      <button v-if="!fixed" type="button" class="button" @click="add">
        <Plus class="size-4" aria-hidden="true" />Add a camera
      </button>
    </section>
  </div>
</template>

<style scoped>
.camera-fields :deep(fieldset > div) {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 0.5rem;
}
.camera-fields :deep(fieldset > div > *) {
  margin: 0;
}
.camera-fields :deep(fieldset > div > fieldset) {
  grid-column: 1 / -1;
}
</style>
