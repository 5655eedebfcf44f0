<script setup lang="ts">
import { ClipboardPaste, Plus, X } from '@lucide/vue'
import {
  channelKinds,
  parseSettings,
  quantity,
  RATE_CLASSES,
  type ChannelView,
  type Finding,
  type Kind,
  type QuantityInput,
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
const id = useId()
const { placeNames } = useTest()
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
const seen = computed(() => new Map(props.views.map((v, i) => [v.role, { v, count: props.counts[i] ?? null }])))
const viewOf = (c: ChannelDraft) => seen.value.get(c.role)?.v
const countOf = (c: ChannelDraft) => seen.value.get(c.role)?.count ?? null
const found = computed(() => {
  const at = new Map<number, Finding[]>()
  for (const f of props.findings) {
    const i = /^channels\.(\d+)\./.exec(f.path)?.[1]
    if (i !== undefined) at.set(Number(i), [...(at.get(Number(i)) ?? []), f])
  }
  return at
})

/** Of more than a few dozen a page is shown at a time, of those that are looked for. */
const [MANY, PAGE] = [60, 40]
const isMany = computed(() => channels.value.length > MANY)
const lookFor = ref('')
const onlyFound = ref(false)
const pageAt = ref(0)
const matching = computed(() => {
  const parts = lookFor.value.toLowerCase().split(/\s+/).filter(Boolean)
  return channels.value.flatMap((c, i) => {
    if (onlyFound.value && !found.value.has(i)) return []
    const text = parts.length > 0 ? `${c.label} ${c.role} ${c.place ?? ''}`.toLowerCase() : ''
    return parts.every(p => text.includes(p)) ? [i] : []
  })
})
const pages = computed(() => Math.max(1, Math.ceil(matching.value.length / PAGE)))
watch([lookFor, onlyFound], () => (pageAt.value = 0))
watch(pages, n => (pageAt.value = Math.min(pageAt.value, n - 1)))
const rows = computed(() => {
  const from = isMany.value ? pageAt.value * PAGE : 0
  const some = isMany.value ? matching.value.slice(from, from + PAGE) : channels.value.map((_, i) => i)
  return some.map(i => ({ i, c: channels.value[i]! }))
})
const isPasting = ref(false)
function takeList(list: ChannelDraft[]): void {
  channels.value = [...channels.value, ...list.map(c => markRaw(c))]
  isPasting.value = false
  if (channels.value.length > MANY) pageAt.value = Math.ceil(channels.value.length / PAGE) - 1
}

function change(i: number, values: Partial<ChannelDraft>): void {
  const next = { ...channels.value[i]!, ...values }
  for (const key of Object.keys(next) as (keyof ChannelDraft)[])
    if (next[key] === undefined || (next[key] === null && key !== 'sensorId')) Reflect.deleteProperty(next, key)
  channels.value = channels.value.with(i, markRaw(next))
}
function append(type: string): void {
  const taken = channels.value.map(c => c.role)
  channels.value = [...channels.value, ...channelsOf(type, taken).map(c => markRaw(c))]
}
const hertz = (q: QuantityInput): number => parseSettings(quantity('frequency'), q)
/** As fast as a class, or at a rate of its own: that of the plan to begin with. */
const setRate = (i: number, said: string) =>
  said === 'own'
    ? change(i, { rate: viewOf(channels.value[i]!)?.rate ?? 10 })
    : change(i, { rateClass: said, rate: undefined })
const add = () => append(adding.value)
const derive = () => append('derived')
const bar = (v: ChannelView) => `${Math.min(100, 100 * (v.utilisation ?? 0))}%`
const here = (i: number) => found.value.get(i) ?? []
const along = (c: ChannelDraft) => c.kind === 'strain' || (channelKinds.find(k => k.id === c.type)?.along ?? false)
const usedElsewhere = (id: number) => (props.elsewhere[id] ?? []).length
</script>

<template>
  <div>
    <datalist :id="`${id}-places`"><option v-for="p in placeNames" :key="p" :value="p" /></datalist>
    <div v-if="isMany" class="mb-2 flex flex-wrap items-end gap-3">
      <label
        ><span class="label">Find</span><input v-model="lookFor" type="search" class="field w-48" placeholder="rib 4"
      /></label>
      <label class="flex items-center gap-2 self-center text-sm"
        ><input v-model="onlyFound" type="checkbox" />Only with something to mend ({{ found.size }})</label
      >
      <p class="ml-auto flex items-center gap-2 text-sm" role="status">
        {{ matching.length.toLocaleString('en') }} of {{ channels.length.toLocaleString('en') }} channels
        <button type="button" class="button px-2" :disabled="pageAt === 0" @click="pageAt--">Before</button>
        page {{ pageAt + 1 }} of {{ pages }}
        <button type="button" class="button px-2" :disabled="pageAt >= pages - 1" @click="pageAt++">Next</button>
      </p>
    </div>
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
          <template v-for="{ c, i } in rows" :key="i">
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
                  :list="`${id}-places`"
                  :aria-label="`Where ${c.label} sits`"
                  :disabled="fixed"
                  @change="change(i, { place: ($event.target as HTMLInputElement).value })"
                />
                <label v-if="!c.expression && !isMany" class="flex items-center gap-1 text-2xs text-quiet"
                  >off after
                  <input
                    type="number"
                    min="2"
                    class="field w-12 border-transparent px-1 py-0 text-xs"
                    :value="c.offAfter ?? ''"
                    :aria-label="`${c.label} is taken off after rung`"
                    :disabled="fixed"
                    @change="change(i, { offAfter: Number(($event.target as HTMLInputElement).value) || undefined })"
                /></label>
                <p v-if="problemAt(`channels.${i}.offAfter`)" class="problem">
                  {{ problemAt(`channels.${i}.offAfter`) }}
                </p>
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
                  :value="c.rate === undefined ? (c.rateClass ?? 'plan') : 'own'"
                  :aria-label="`Rate of ${c.label}`"
                  :disabled="fixed"
                  @change="setRate(i, ($event.target as HTMLSelectElement).value)"
                >
                  <option v-for="(w, k) in rateWords" :key="k" :value="k">{{ w }}</option>
                  <option value="own">another</option>
                </select>
                <QuantityField
                  v-if="c.rate !== undefined && !c.expression"
                  class="w-24"
                  hide-label
                  :label="`Own rate of ${c.label}`"
                  kind="frequency"
                  :prefer="prefer"
                  :disabled="fixed"
                  :model-value="c.rate"
                  :problem="problemAt(`channels.${i}.rate`)"
                  @update:model-value="$event !== null && change(i, { rate: hertz($event) })"
                />
              </td>
              <td>
                <input
                  v-if="isMany"
                  class="field w-20 font-mono text-xs"
                  :value="c.twin ?? ''"
                  placeholder="short name"
                  :aria-label="`Channel redundant to ${c.label}`"
                  :disabled="fixed"
                  @change="change(i, { twin: ($event.target as HTMLInputElement).value.trim() || undefined })"
                />
                <select
                  v-else
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
    <div v-if="!fixed" class="mt-2 flex flex-wrap items-end gap-2">
      <label
        ><span class="label">From the catalogue</span
        ><select v-model="adding" class="field w-52">
          <option v-for="k in channelKinds" :key="k.id" :value="k.id">
            {{ k.title }}{{ k.makes > 1 ? ` (${k.makes} channels)` : '' }}
          </option>
        </select></label
      >
      <button type="button" class="button" @click="add"><Plus class="size-4" aria-hidden="true" />Add</button>
      <button type="button" class="button whitespace-nowrap" @click="derive">
        <Plus class="size-4" aria-hidden="true" />Add a derived channel
      </button>
      <button type="button" class="button whitespace-nowrap" @click="isPasting = true">
        <ClipboardPaste class="size-4" aria-hidden="true" />Paste a list
      </button>
      <PasteChannels
        :open="isPasting"
        :taken="channels.map(c => c.role)"
        :sensors="sensors"
        @close="isPasting = false"
        @take="takeList"
      />
      <p class="text-xs text-quiet">
        Steps: converter counts that the expected reading spans. Check value: what a shunt or a known load must read at
        the rig. <NuxtLink to="/sensors">Sensor inventory</NuxtLink>
      </p>
    </div>
  </div>
</template>
