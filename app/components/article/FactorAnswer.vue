<script setup lang="ts">
import type { FactorHistory, FactorSummary, Kind } from '@hypomet/core'
import type { PropertyRow } from '~/composables/article/useFactors'

/** The steps of an article's history and what each says of the factors that changed in it. */
const props = defineProps<{
  answer: FactorHistory & { kind: Kind; label: string }
  properties: PropertyRow[]
  system: 'metric' | 'imperial'
}>()
const units = useUnits(() => props.system)
function written(factor: string, value: number | string | null): string {
  const cell = props.properties.find(p => p.title === factor)?.cells.find(c => c.value === value)
  return cell?.text ?? (value === null ? '–' : String(value))
}
const effect = (v: number, U: number | null) => `${v > 0 ? '+' : ''}${units.difference(v, props.answer.kind, U)}`
function sentence(f: FactorSummary): string {
  const alone = f.alone.filter(s => s.effect !== null)
  if (alone.length > 0)
    return `changed alone: ${alone
      .map(s => `${s.from.label} → ${s.to.label} ${effect(s.effect!, s.U)}${MOVED[s.moved ?? 'yes']}`)
      .join('; ')}`
  if (f.togetherWith.length > 0) return `aliased with ${f.togetherWith.join(', ')}: always changed together`
  return f.changes === 1 ? 'changed once, without results on both sides' : 'never changed alone'
}
/** A slope over the range that the factor went through, in words one can read. */
function ofRange(factor: string, slope: number, interval: [number, number] | null): string {
  const values =
    props.properties
      .find(p => p.title === factor)
      ?.cells.flatMap(c => (typeof c.value === 'number' ? [c.value] : [])) ?? []
  const [low, high] = [Math.min(...values), Math.max(...values)]
  return (
    `${effect(slope * (high - low), interval ? ((interval[1] - interval[0]) / 2) * (high - low) : null)} ` +
    `from ${written(factor, low)} to ${written(factor, high)}`
  )
}
const steps = computed(() => props.answer.steps.filter(s => s.changes.length > 0))
const MOVED = { yes: '', no: ' (within its uncertainty)', open: ' (open)' }
</script>

<template>
  <div class="space-y-2">
    <table v-if="steps.length > 0" class="data">
      <thead>
        <tr>
          <th>Step</th>
          <th>What changed</th>
          <th class="number">{{ answer.label }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in steps" :key="s.to.id">
          <td class="whitespace-nowrap font-medium">{{ s.from.label }} → {{ s.to.label }}</td>
          <td class="text-xs">
            <span v-for="c in s.changes" :key="c.factor" class="block"
              >{{ c.factor }} {{ written(c.factor, c.from) }} → <strong>{{ written(c.factor, c.to) }}</strong></span
            >
          </td>
          <td class="number whitespace-nowrap">
            <template v-if="s.effect !== null"
              >{{ effect(s.effect, s.U)
              }}<span class="block text-xs text-quiet">{{
                s.moved === 'yes' ? 'significant difference' : s.moved === 'no' ? 'within its uncertainty' : 'open'
              }}</span></template
            ><span v-else class="text-xs text-quiet">no result</span>
          </td>
        </tr>
      </tbody>
    </table>
    <ul class="space-y-0.5 text-sm">
      <li v-for="f in answer.factors" :key="f.factor">
        <strong>{{ f.factor }}</strong> <span :class="f.alone.length > 0 ? '' : 'text-quiet'">{{ sentence(f) }}.</span>
      </li>
    </ul>
    <p v-if="answer.factors.length === 0" class="text-sm text-quiet">No factor has changed between revisions yet.</p>
    <template v-if="answer.fit">
      <p class="text-xs text-quiet">
        Over all revisions, by least squares ({{ answer.fit.dof }} degrees of freedom left):
      </p>
      <table class="data">
        <tbody>
          <tr v-for="(e, i) in answer.fit.effects" :key="i">
            <td>{{ e.factor }}{{ e.level ? `: ${e.level}` : '' }}</td>
            <td class="number">
              {{
                e.level
                  ? effect(e.effect, e.interval ? (e.interval[1] - e.interval[0]) / 2 : null)
                  : ofRange(e.factor, e.effect, e.interval)
              }}
            </td>
            <td class="text-xs text-quiet">
              {{ e.aliases.length > 0 ? `not to be told from ${e.aliases.join(', ')}` : '' }}
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>
