<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import {
  WATCH_ACTIONS,
  WATCH_KINDS,
  type Finding,
  type QuantityInput,
  type UnitPreference,
  type WatchAction,
  type WatchKind,
} from '@hypomet/core'
import type { ChannelDraft } from '~/composables/plan/usePlanDraft'

/** What is watched on every sample of the run, and what then happens. */
interface Rule {
  kind: WatchKind
  role: string
  value: QuantityInput
  action?: WatchAction
  lasts?: number
}
const rules = defineModel<Rule[]>({ required: true })
/** How long a watched channel may give no number. */
const silence = defineModel<QuantityInput | null>('silence')
const props = defineProps<{
  channels: ChannelDraft[]
  prefer: UnitPreference
  fixed: boolean
  findings: Finding[]
  problemAt: (path: string) => string | undefined
}>()
const kinds: Record<WatchKind, { title: string; about: string }> = {
  limit: { title: 'Reading', about: 'beyond a value' },
  rate: { title: 'Rate of change', about: 'beyond a value a second' },
  twin: { title: 'Redundant channels', about: 'disagree by more than' },
  line: { title: 'Off the line', about: 'of its first half by a share: loss of stiffness' },
  onset: {
    title: 'Onset of instability',
    about: 'load beyond a share of the critical load that growth over load points to',
  },
  steady: { title: 'Steady', about: 'within a difference of where it is heading' },
  'heads-for': { title: 'Heading for', about: 'a steady value beyond, before it is there' },
  'next-rung': { title: 'Next rung', about: 'projected to read beyond, before it is commanded' },
  leak: { title: 'Fall in a hold', about: 'faster than a value a second: a leak' },
  failure: { title: 'Failure', about: 'falls by a share of its peak within half a second' },
}
const actions: Record<WatchAction, string> = { warn: 'warn', hold: 'hold the ladder', abort: 'abort and unload' }
/** More than these are no list to choose from. */
const MANY = 200
const change = (i: number, values: Partial<Rule>) => {
  rules.value = rules.value.with(i, { ...rules.value[i]!, ...values })
}
const here = (i: number) => props.findings.filter(f => f.path.startsWith(`watch.${i}.`))
</script>

<template>
  <fieldset :disabled="fixed">
    <div class="mb-2 w-72">
      <QuantityField
        v-model="silence"
        kind="time"
        :prefer="prefer"
        label="Watched channel silent for at most"
        placeholder="1 s"
        optional
        :problem="problemAt('silence')"
      />
      <p class="text-xs text-quiet">Then the ladder is held, and it is said aloud.</p>
    </div>
    <table v-if="rules.length > 0" class="data">
      <thead>
        <tr>
          <th>Watch</th>
          <th>Channel</th>
          <th>Beyond</th>
          <th>For, s</th>
          <th>Then</th>
          <th><span class="sr-only">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <template v-for="(r, i) in rules" :key="i">
          <tr>
            <td>
              <select
                class="field w-44"
                :value="r.kind"
                :aria-label="`Watch rule ${i + 1}`"
                @change="change(i, { kind: ($event.target as HTMLSelectElement).value as WatchKind })"
              >
                <option v-for="k in WATCH_KINDS" :key="k" :value="k">{{ kinds[k].title }}</option></select
              >{{ ' ' }}
              <span class="text-xs text-quiet">{{ kinds[r.kind].about }}</span>
            </td>
            <td>
              <input
                v-if="channels.length > MANY"
                class="field w-52 font-mono text-xs"
                :value="r.role"
                placeholder="short name"
                :aria-label="`Channel of rule ${i + 1}`"
                @change="change(i, { role: ($event.target as HTMLInputElement).value.trim() })"
              />
              <select
                v-else
                class="field w-52"
                :value="r.role"
                :aria-label="`Channel of rule ${i + 1}`"
                @change="change(i, { role: ($event.target as HTMLSelectElement).value })"
              >
                <option v-for="c in channels" :key="c.role" :value="c.role">{{ c.label }}</option>
              </select>
            </td>
            <td>
              <QuantityField
                class="w-32"
                hide-label
                :label="`Value of rule ${i + 1}`"
                kind="any"
                keep-unit
                :prefer="prefer"
                :model-value="r.value"
                :problem="problemAt(`watch.${i}.value`)"
                @update:model-value="change(i, { value: $event ?? 0 })"
              />
            </td>
            <td>
              <QuantityField
                class="w-16"
                hide-label
                :label="`Duration of rule ${i + 1}`"
                kind="ratio"
                :prefer="prefer"
                :model-value="r.lasts ?? 0"
                @update:model-value="change(i, { lasts: (typeof $event === 'object' ? $event?.value : $event) ?? 0 })"
              />
            </td>
            <td>
              <select
                class="field w-40"
                :value="r.action ?? 'hold'"
                :aria-label="`Action of rule ${i + 1}`"
                @change="change(i, { action: ($event.target as HTMLSelectElement).value as WatchAction })"
              >
                <option v-for="a in WATCH_ACTIONS" :key="a" :value="a">{{ actions[a] }}</option>
              </select>
            </td>
            <td>
              <button
                type="button"
                class="button px-1"
                :aria-label="`Remove rule ${i + 1}`"
                @click="rules = rules.toSpliced(i, 1)"
              >
                <X class="size-3.5" aria-hidden="true" />
              </button>
            </td>
          </tr>
          <tr v-for="f in here(i)" :key="f.code">
            <td colspan="6" class="border-t-0 py-0.5 text-xs text-fail">{{ f.message }} {{ f.mend }}</td>
          </tr>
        </template>
      </tbody>
    </table>
    <p v-else class="text-sm text-quiet">
      No rules of this plan’s own. Every channel is watched against its sensor’s range in any case: at 95 % the ladder
      is held.
    </p>
    <button
      type="button"
      class="button mt-2"
      @click="rules = [...rules, { kind: 'limit', role: channels[0]?.role ?? '', value: 1, action: 'hold' }]"
    >
      <Plus class="size-4" aria-hidden="true" />Another rule
    </button>
  </fieldset>
</template>
