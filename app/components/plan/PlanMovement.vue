<script setup lang="ts">
import { formOf, planFields, type HypometError, type PlanView, type UnitPreference } from '@hypomet/core'
import { setPart } from '~/composables/plan/setPart'
import type { PlanDraft } from '~/composables/plan/usePlanDraft'

/** The line of load against the deflected shape, and ends that cannot slide. */
const draft = defineModel<PlanDraft>({ required: true })
const props = defineProps<{ view: PlanView; prefer: UnitPreference; fixed: boolean; problem: HypometError | null }>()
const movement = { ...formOf(planFields.movement), required: false }
const restraint = { ...formOf(planFields.restraint), required: false }
const show = (v: number | null, kind: 'force' | 'length' | 'angle') =>
  useUnits('metric').show(v, kind, { prefer: props.prefer, digits: 3 })
const set = setPart(draft)
const m = computed(() => props.view.movement)
const rungOf = (i: number) => props.view.rungs[i]!
const useBest = () =>
  set('movement', {
    ...(draft.value['movement'] as object),
    anchorOffset: { value: Number((m.value!.best!.anchorOffset * 1000).toFixed(1)), unit: 'mm' },
  })
</script>

<template>
  <div class="grid grid-cols-[18rem_1fr] gap-x-4 gap-y-3">
    <fieldset :disabled="fixed">
      <SettingsField
        :model-value="draft['movement'] ?? null"
        :field="movement"
        path="movement"
        :prefer="prefer"
        :problem="problem"
        @update:model-value="set('movement', $event)"
      />
    </fieldset>
    <section v-if="m" class="min-w-0">
      <p class="mb-1 text-sm">
        At the load {{ show(m.at, 'length') }} from the start, the line of load pulls along the surface with at most
        <strong>{{ (100 * m.worst).toFixed(1) }} %</strong> of the load.
        <template v-if="m.best"
          >With the anchor
          <strong
            >{{ show(Math.abs(m.best.anchorOffset), 'length') }}
            {{ m.best.anchorOffset < 0 ? 'inward' : 'outward' }}</strong
          >
          it would be {{ (100 * m.best.worst).toFixed(1) }} %.
          <button v-if="!fixed" type="button" class="button px-1.5 py-0 text-xs" @click="useBest">
            Put it there
          </button></template
        >
      </p>
      <table class="data">
        <thead>
          <tr>
            <th class="number">Rung</th>
            <th class="number">Load</th>
            <th class="number">Deflection</th>
            <th class="number">Comes inward</th>
            <th class="number">Surface leans</th>
            <th class="number">Line leans</th>
            <th class="number">Side force</th>
            <th class="number">Lost across</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in m.rows" :key="r.rung">
            <td class="number">{{ rungOf(r.rung).source + 1 }}</td>
            <td class="number">{{ show(rungOf(r.rung).target, 'force') }}</td>
            <td class="number">{{ show(r.deflection, 'length') }}</td>
            <td class="number">{{ show(r.inward, 'length') }}</td>
            <td class="number">{{ show(r.slope, 'angle') }}</td>
            <td class="number">{{ show(r.tilt, 'angle') }}</td>
            <td class="number">{{ show(r.sideForce, 'force') }}</td>
            <td class="number">{{ show(r.lostNormal, 'force') }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <p v-else class="self-center text-sm text-quiet">
      {{
        view.shape.length === 0
          ? 'This article does not span: nothing leans.'
          : 'Say how the load is held, and see how its line leans as the article bends.'
      }}
    </p>
    <fieldset :disabled="fixed">
      <SettingsField
        :model-value="draft['restraint'] ?? null"
        :field="restraint"
        path="restraint"
        :prefer="prefer"
        :problem="problem"
        @update:model-value="set('restraint', $event)"
      />
    </fieldset>
    <section v-if="view.restraint" class="min-w-0 text-sm">
      <p>
        At a sag of {{ show(view.restraint.sag, 'length') }} the ends pull
        <strong data-fact="End pull">{{ show(view.restraint.pull, 'force') }}</strong> on their attachments. Those reach
        their capacity at a sag of {{ show(view.restraint.sagAllowed, 'length') }}.
      </p>
      <p class="text-xs text-quiet">
        By rung:
        {{
          view.rungs
            .filter(r => !r.isZero && r.cycle === 1)
            .map(r => `${r.source + 1}: ${show(view.restraint!.pulls[view.rungs.indexOf(r)] ?? null, 'force')}`)
            .join(' · ')
        }}
      </p>
    </section>
    <p v-else class="self-center text-sm text-quiet">
      Ends that cannot slide pull on what holds them as the span sags; a fixture that breaks the part says little of it.
    </p>
  </div>
</template>
