<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import {
  channelKinds,
  RATE_CLASSES,
  type ChannelView,
  type Finding,
  type Kind,
  type UnitPreference,
} from '@hypomet/core'
import { channelsOf } from '~/composables/plan/newChannels'
import type { ChannelDraft } from '~/composables/plan/usePlanDraft'
import type { SensorRow } from '~/types/api'

/** Channels of a plan with their sensors, the range check that follows, and how they are recorded. */
const channels = defineModel<ChannelDraft[]>({ required: true })
const props = defineProps<{
  views: ChannelView[]
  counts: (number | null)[]
  sensors: SensorRow[]
  prefer: UnitPreference
  fixed: boolean
  needed: string[]
  elsewhere: Record<number, { title: string }[]>
  findings: Finding[]
  problemAt: (path: string) => string | undefined
}>()
const units = {
  show: (v: number | null, kind: Kind, digits = 3) =>
    useUnits('metric').show(v, kind, { prefer: props.prefer, digits }),
}
const words: Record<ChannelView['state'], string> = {
  fits: 'fits',
  'low-range': 'too large a sensor',
  'near-full-scale': 'near full scale',
  'over-range': 'beyond full scale',
  'no-sensor': 'no sensor',
  derived: 'derived',
  'not-expected': 'nothing expected',
}
const rateWords: Record<string, string> = {
  plan: 'as the plan',
  ...Object.fromEntries(
    Object.entries(RATE_CLASSES).flatMap(([k, v]) =>
      v === null ? [] : [[k, `${k}, ${v >= 1000 ? `${v / 1000} kHz` : `${v} Hz`}`]],
    ),
  ),
}
const adding = ref('strain')
const viewOf = (c: ChannelDraft) => props.views.find(v => v.role === c.role)
const countOf = (c: ChannelDraft) => props.counts[props.views.findIndex(v => v.role === c.role)] ?? null

function change(i: number, values: Partial<ChannelDraft>): void {
  const next = { ...channels.value[i]!, ...values }
  for (const key of Object.keys(next) as (keyof ChannelDraft)[])
    if (next[key] === undefined || (next[key] === null && key !== 'sensorId')) Reflect.deleteProperty(next, key)
  channels.value = channels.value.with(i, next)
}
function append(type: string): void {
  const taken = channels.value.map(c => c.role)
  channels.value = [...channels.value, ...channelsOf(type, taken)]
}
const add = () => append(adding.value)
const derive = () => append('derived')
const bar = (v: ChannelView) => `${Math.min(100, 100 * (v.utilisation ?? 0))}%`
const here = (i: number) => props.findings.filter(f => f.path.startsWith(`channels.${i}.`))
const along = (c: ChannelDraft) => c.kind === 'strain' || (channelKinds.find(k => k.id === c.type)?.along ?? false)
const usedElsewhere = (id: number) => (props.elsewhere[id] ?? []).length
</script>

<template>
  <div>
    <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Channels, table">
      <table class="data">
        <thead>
          <tr>
            <th>Channel, short name</th>
            <th>Where</th>
            <th>Sensor, or what it is derived from</th>
            <th class="number">Expected</th>
            <th class="number">Full scale, ±U</th>
            <th>Range used, steps</th>
            <th>Rate</th>
            <th>Redundant to</th>
            <th>Check value</th>
            <th class="number">Cost</th>
            <th><span class="sr-only">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(c, i) in channels" :key="i">
            <tr :data-channel="c.role">
              <td>
                <input
                  :value="c.label"
                  class="field min-w-40 border-transparent px-1 py-0 font-medium"
                  :aria-label="`Name of ${c.role}`"
                  :disabled="fixed"
                  @change="change(i, { label: ($event.target as HTMLInputElement).value })"
                />
                <input
                  v-if="!needed.includes(c.role)"
                  :value="c.role"
                  class="field w-40 border-transparent px-1 py-0 font-mono text-xs text-quiet"
                  :aria-label="`Short name of ${c.label}`"
                  :disabled="fixed"
                  @change="change(i, { role: ($event.target as HTMLInputElement).value.trim() })"
                /><code v-else class="block px-1 text-xs text-quiet">{{ c.role }}</code>
              </td>
              <td>
                <QuantityField
                  v-if="along(c) && !c.expression"
                  class="w-24"
                  hide-label
                  :label="`Place of ${c.label}, from the root`"
                  kind="length"
                  :prefer="prefer"
                  optional
                  :disabled="fixed"
                  :model-value="c.x"
                  @update:model-value="change(i, { x: $event ?? undefined })"
                />
                <input
                  v-if="!c.expression"
                  :value="c.place ?? ''"
                  class="field w-24 border-transparent px-1 py-0 text-xs"
                  placeholder="place"
                  :aria-label="`Where ${c.label} sits`"
                  :disabled="fixed"
                  @change="change(i, { place: ($event.target as HTMLInputElement).value })"
                />
              </td>
              <td>
                <input
                  v-if="c.expression !== undefined"
                  :value="c.expression"
                  class="field min-w-44 font-mono text-xs"
                  spellcheck="false"
                  :aria-label="`Expression of ${c.label}`"
                  :disabled="fixed"
                  @change="change(i, { expression: ($event.target as HTMLInputElement).value })"
                />
                <select
                  v-else
                  class="field w-44"
                  :value="c.sensorId ?? ''"
                  :aria-label="`Sensor of ${c.label}`"
                  :disabled="fixed"
                  @change="change(i, { sensorId: Number(($event.target as HTMLSelectElement).value) || null })"
                >
                  <option value="">none yet</option>
                  <option v-for="s in sensors.filter(s => s.kind === c.kind)" :key="s.id" :value="s.id">
                    {{ s.name
                    }}{{
                      usedElsewhere(s.id) > 0
                        ? ` (in ${usedElsewhere(s.id)} other ${usedElsewhere(s.id) === 1 ? 'plan' : 'plans'})`
                        : ''
                    }}
                  </option>
                </select>
              </td>
              <td class="number">
                <QuantityField
                  v-if="!fixed && !needed.includes(c.role) && !c.expression && c.kind !== 'strain'"
                  class="min-w-24"
                  hide-label
                  :label="`Expected largest ${c.label}`"
                  :kind="c.kind"
                  :prefer="prefer"
                  optional
                  :model-value="c.expected"
                  :problem="problemAt(`channels.${i}.expected`)"
                  @update:model-value="change(i, { expected: $event ?? undefined })"
                />
                <template v-else-if="viewOf(c)?.expectedPeak == null && !fixed && !c.expression"
                  ><QuantityField
                    class="min-w-24"
                    hide-label
                    :label="`Expected largest ${c.label}`"
                    :kind="c.kind"
                    :prefer="prefer"
                    optional
                    :model-value="c.expected"
                    @update:model-value="change(i, { expected: $event ?? undefined })"
                /></template>
                <template v-else>{{ units.show(viewOf(c)?.expectedPeak ?? null, c.kind) }}</template>
              </td>
              <td class="number whitespace-nowrap">
                {{ units.show(viewOf(c)?.fullScale ?? null, c.kind)
                }}<span v-if="viewOf(c)?.U != null" class="block text-xs text-quiet"
                  >± {{ units.show(viewOf(c)!.U, c.kind, 2) }}</span
                >
              </td>
              <td>
                <span v-if="viewOf(c)" class="flex items-center gap-2">
                  <span class="relative block h-2 w-10 rounded bg-sunk" aria-hidden="true"
                    ><span
                      :class="[
                        'absolute inset-y-0 left-0 rounded',
                        viewOf(c)!.state === 'fits' ? 'bg-accent' : 'bg-open',
                      ]"
                      :style="{ width: bar(viewOf(c)!) }"
                  /></span>
                  <span
                    :class="[
                      'whitespace-nowrap text-xs',
                      viewOf(c)!.state === 'fits' || viewOf(c)!.state === 'derived'
                        ? 'text-quiet'
                        : 'font-semibold text-open',
                    ]"
                    >{{ viewOf(c)!.utilisation === null ? '' : `${Math.round(100 * viewOf(c)!.utilisation!)} % · `
                    }}{{ words[viewOf(c)!.state] }}</span
                  >
                </span>
                <span v-if="countOf(c) !== null" class="text-xs text-quiet">{{ countOf(c) }} steps</span>
              </td>
              <td>
                <select
                  v-if="!c.expression"
                  class="field w-24 text-xs"
                  :value="c.rateClass ?? 'plan'"
                  :aria-label="`Rate of ${c.label}`"
                  :disabled="fixed"
                  @change="change(i, { rateClass: ($event.target as HTMLSelectElement).value })"
                >
                  <option v-for="(w, k) in rateWords" :key="k" :value="k">{{ w }}</option>
                </select>
              </td>
              <td>
                <select
                  class="field w-20 text-xs"
                  :value="c.twin ?? ''"
                  :aria-label="`Channel redundant to ${c.label}`"
                  :disabled="fixed"
                  @change="change(i, { twin: ($event.target as HTMLSelectElement).value || undefined })"
                >
                  <option value="">none</option>
                  <option v-for="o in channels.filter(o => o !== c && o.kind === c.kind)" :key="o.role" :value="o.role">
                    {{ o.label }}
                  </option>
                </select>
              </td>
              <td>
                <QuantityField
                  v-if="!c.expression"
                  class="min-w-20"
                  hide-label
                  :label="`Check value of ${c.label}`"
                  :kind="c.kind"
                  :prefer="prefer"
                  optional
                  :disabled="fixed"
                  :model-value="c.checkValue"
                  @update:model-value="change(i, { checkValue: $event ?? undefined })"
                />
              </td>
              <td>
                <QuantityField
                  class="w-16"
                  hide-label
                  :label="`Cost of ${c.label}`"
                  kind="ratio"
                  :prefer="prefer"
                  optional
                  :disabled="fixed"
                  :model-value="c.cost"
                  @update:model-value="
                    change(i, { cost: (typeof $event === 'object' ? $event?.value : $event) ?? undefined })
                  "
                />
              </td>
              <td>
                <button
                  v-if="!fixed && !needed.includes(c.role)"
                  type="button"
                  class="button px-1"
                  :aria-label="`Remove ${c.label}`"
                  @click="channels = channels.toSpliced(i, 1)"
                >
                  <X class="size-3.5" aria-hidden="true" />
                </button>
              </td>
            </tr>
            <tr v-for="f in here(i)" :key="f.code + f.message">
              <td
                colspan="11"
                :class="['border-t-0 py-0.5 text-xs', f.severity === 'stop' ? 'text-fail' : 'text-open']"
              >
                {{ f.message }} {{ f.mend }}
              </td>
            </tr>
          </template>
        </tbody>
      </table>
    </div>
    <div v-if="!fixed" class="mt-2 flex items-end gap-2">
      <label
        ><span class="label">From the catalogue</span
        ><select v-model="adding" class="field w-52">
          <option v-for="k in channelKinds" :key="k.id" :value="k.id">
            {{ k.title }}{{ k.makes > 1 ? ` (${k.makes} channels)` : '' }}
          </option>
        </select></label
      >
      <button type="button" class="button" @click="add"><Plus class="size-4" aria-hidden="true" />Add</button>
      <button type="button" class="button" @click="derive">
        <Plus class="size-4" aria-hidden="true" />Add a derived channel
      </button>
      <p class="ml-auto text-xs text-quiet">
        Steps: converter counts that the expected reading spans. Check value: what a shunt or a known load must read at
        the rig. <NuxtLink to="/sensors">Sensor inventory</NuxtLink>
      </p>
    </div>
  </div>
</template>
