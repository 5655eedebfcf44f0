<script setup lang="ts">
import { calcs, formOf, type FollowUp, type MethodOutput, type UnitPreference } from '@hypomet/core'

/** A calculation that goes on from the results: filled in by them, changed at will, or taken to its worksheet. */
const props = defineProps<{ carried: FollowUp; results: MethodOutput['results']; prefer: UnitPreference }>()
const calc = computed(() => calcs[props.carried.calc]!)
const form = computed(() => formOf(calc.value.settings))
const own = ref<Record<string, unknown>>({})
const settings = computed(() => ({ ...props.carried.settings, ...own.value }))
const output = shallowRef<MethodOutput | null>(null)
const { problem, run } = useAction()
const { calculate } = useCalculator()
const renew = useDebounceFn(async () => {
  output.value =
    (await run(() =>
      calculate({
        calc: props.carried.calc,
        settings: JSON.parse(JSON.stringify(settings.value)) as Record<string, unknown>,
      }),
    )) ?? null
}, 150)
onMounted(() => watch(settings, renew, { immediate: true }))
/** What the map shows already is not listed point by point. */
const shown = computed(() =>
  output.value && props.carried.calc === 'descent-plan' ? { ...output.value, tables: {} } : output.value,
)
const landed = computed(() => {
  const [east, north] = [props.results['landingEast']?.value, props.results['landingNorth']?.value]
  return east == null || north == null ? null : { east, north }
})
function toWorksheet(): void {
  localStorage.setItem(`hypomet-worksheet-${props.carried.calc}`, JSON.stringify(settings.value))
  void navigateTo(`/worksheets/${props.carried.calc}`)
}
</script>

<template>
  <div class="grid gap-3 lg:grid-cols-[22rem_1fr]" :data-carried="carried.calc">
    <div class="space-y-2">
      <SettingsField
        :model-value="settings"
        :field="form"
        path="settings"
        :prefer="prefer"
        :problem="problem"
        hide-label
        @update:model-value="own = $event as Record<string, unknown>"
      />
      <button type="button" class="button text-xs" @click="toWorksheet">To its worksheet</button>
    </div>
    <div class="min-w-0 space-y-2">
      <LandingMap
        v-if="carried.calc === 'descent-plan' && output"
        :output="output"
        :settings="settings"
        :prefer="prefer"
        :landed="landed"
      />
      <MethodResults v-if="shown" :output="shown" :prefer="prefer" :name="carried.calc" />
      <p v-else class="text-sm text-quiet">{{ problem ? problem.message : 'Calculating …' }}</p>
    </div>
  </div>
</template>
