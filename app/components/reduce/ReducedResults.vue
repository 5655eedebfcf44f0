<script setup lang="ts">
import { madeOf, whyNull } from '~/composables/judge/uncertaintyWords'
import { isSame } from '~/composables/reduce/reduceSettings'
import {
  expandedBeside,
  isCounted,
  kindOfSi,
  wordsOf,
  formatNumber,
  type AnyFamily,
  type MethodOutput,
  type Result,
} from '@hypomet/core'

/**
 * Each result with its uncertainty, its bound and how it was got; while settings differ from the kept ones, old beside
 * new.
 */
const props = defineProps<{
  family: AnyFamily
  output: MethodOutput
  kept: MethodOutput | null
  system: 'metric' | 'imperial'
  /** On paper nothing can be opened: what each uncertainty is made of stands below it. */
  isOpen?: boolean
}>()
const units = useUnits(() => props.system)

const kindOf = (key: string, r: Result) =>
  kindOfSi(r.unit) === null
    ? null
    : (props.family.results[key]?.kind ?? props.output.own?.[key]?.kind ?? kindOfSi(r.unit))
function text(key: string, r: Result | undefined): string {
  if (!r || r.value === null) return '–'
  if (props.family.results[key]?.isFlag) return r.value === 0 ? 'no' : 'yes'
  if (props.family.results[key]?.isCount) return String(r.value)
  const kind = kindOf(key, r)
  if (!kind) return `${formatNumber(r.value)}\u202f${r.unit}`
  return units.result(r, kind)
}
const BOUNDS: Record<string, string> = { atLeast: 'at least', atMost: 'at most' }
/** The family’s order: what limits are set on first. */
const place = (key: string) => {
  const at = Object.keys(props.family.results).indexOf(key)
  return at < 0 ? Infinity : at
}
const rows = computed(() =>
  Object.entries(props.output.results)
    .sort(([a], [b]) => place(a) - place(b))
    .map(([key, r]) => {
      const before = props.kept?.results[key]
      const changed = props.kept !== null && !isSame(before, r)
      const kind = kindOf(key, r)
      const isInterval = typeof r.bound === 'object'
      const U = r.u === undefined || !r.value || isInterval ? null : Math.abs((100 * expandedBeside(r)) / r.value)
      return {
        key,
        label: props.family.results[key]?.label ?? (props.output.own?.[key] ? key : wordsOf(key)),
        how: props.family.results[key]?.how ?? '',
        now: text(key, r),
        before: changed && before ? text(key, before) : null,
        moved:
          changed && before?.value != null && r.value !== null && kind
            ? `${r.value >= before.value ? '+' : '−'}${units.difference(Math.abs(r.value - before.value), kind)}`
            : '',
        bound:
          typeof r.bound === 'object'
            ? `an interval${r.u === undefined ? ', nothing known of its ends' : ' with its U'}`
            : (BOUNDS[r.bound] ?? ''),
        U: U === null ? '' : U < 0.1 ? 'U below 0.1 %' : `U ${U >= 10 ? U.toFixed(0) : U.toFixed(1)} %`,
        why: r.value === null ? whyNull(props.output) : '',
        parts: isCounted(props.family.results[key]) ? '' : madeOf(r),
      }
    }),
)
const open = ref<string | null>(null)
</script>

<template>
  <table class="data" data-results>
    <thead class="sr-only">
      <tr>
        <th>Result</th>
        <th>Value</th>
      </tr>
    </thead>
    <tbody>
      <template v-for="r in rows" :key="r.key">
        <tr :data-result="r.key">
          <td>
            <button
              v-if="r.how"
              type="button"
              class="text-left hover:text-accent"
              :aria-expanded="open === r.key"
              :data-hint="r.how"
              @click="open = open === r.key ? null : r.key"
            >
              {{ r.label }}</button><span v-else>{{ r.label }}</span>
            <span v-if="r.U || r.bound" class="block text-xs text-quiet">{{
              [r.bound, r.U].filter(Boolean).join(' · ')
            }}</span>
            <span v-if="isOpen && r.parts" class="block text-xs text-quiet">{{ r.parts }}</span>
            <span v-if="r.why" class="block text-xs text-open">{{ r.why }}</span>
          </td>
          <td class="number font-semibold">
            {{ r.now
            }}<span v-if="r.before" class="block text-xs font-normal text-quiet"
              ><s>{{ r.before }}</s> {{ r.moved }}</span
            >
          </td>
        </tr>
        <tr v-if="open === r.key">
          <td colspan="2" class="text-sm text-quiet">{{ r.how }} {{ r.parts }}</td>
        </tr>
      </template>
    </tbody>
  </table>
</template>
