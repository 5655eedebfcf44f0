<script setup lang="ts">
import { Copy, Download, RotateCcw } from '@lucide/vue'
import { calcs, formOf, parseSettings, type MethodOutput, type Setup } from '@hypomet/core'

const id = useRoute().params['calc'] as string
const calc = calcs[id]
if (!calc) throw createError({ statusCode: 404, statusMessage: 'There is no such worksheet.', fatal: true })
useTrail().value = [{ name: 'Worksheets', to: '/worksheets' }, { name: calc.title }]
useHead({ title: `${calc.title} · Hypomet` })

const units = useUnits('metric')
const form = formOf(calc.settings)
const example = () => structuredClone((calc.example ?? {}) as Record<string, unknown>)
const settings = useLocalStorage<Record<string, unknown>>(`hypomet-worksheet-${id}`, example(), {
  initOnMounted: true,
  shallow: true,
})
const record = shallowRef<{ bytes: Uint8Array; channels: Record<string, unknown> } | null>(null)
const setup = computed((): Setup => ({
  calc: id,
  ...(record.value ? { channels: record.value.channels } : {}),
  settings: settings.value,
}))

const output = shallowRef<MethodOutput | null>(null)
const { busy, problem, run } = useAction()
const { calculate } = useCalculator()
let asked = 0
async function renew(): Promise<void> {
  if (calc!.roles && !record.value) return
  const mine = ++asked
  const result = await run(() => calculate(setup.value, record.value?.bytes ?? null))
  // An answer that a later entry has overtaken is not shown.
  if (mine === asked) output.value = result ?? null
}
onMounted(() => watch(setup, renew, { immediate: true }))

const { copy, copied } = useClipboard()
const canDraw = computed(() => calc.model !== undefined && settings.value['kind'] !== 'sensor' && output.value !== null)
/** Drawings of the calculation, made when they are asked for. */
function take(name: string): void {
  const file = calc!.files!(parseSettings(calc!.settings, settings.value)).find(f => f.name === name)!
  const a = document.createElement('a')
  a.href = URL.createObjectURL(new Blob([file.text], { type: file.mime }))
  a.download = name
  a.click()
}
const files = computed(() =>
  calc!.files && output.value ? calc!.files(parseSettings(calc!.settings, settings.value)).map(f => f.name) : [],
)
/** A refusal that no field of the form can show. */
const elsewhere = computed(() =>
  problem.value && !problem.value.place.path?.startsWith('settings.') ? problem.value : null,
)
</script>

<template>
  <main
    :class="[
      'mx-auto grid w-full max-w-7xl flex-1',
      'grid-cols-1 content-start items-start gap-3 p-4 lg:grid-cols-[26rem_1fr]',
    ]"
  >
    <div class="flex flex-wrap items-center justify-between gap-2 lg:col-span-2">
      <div>
        <h1>{{ calc.title }}</h1>
        <p class="text-sm text-quiet">{{ calc.purpose }}</p>
      </div>
      <div class="no-print flex gap-2">
        <button type="button" class="button text-xs" @click="copy(JSON.stringify(setup, null, 1))">
          <Copy class="size-3.5" aria-hidden="true" />{{ copied ? 'Copied' : 'Copy set-up as JSON' }}
        </button>
        <button v-for="f in files" :key="f" type="button" class="button text-xs" @click="take(f)">
          <Download class="size-3.5" aria-hidden="true" />{{ f }}
        </button>
        <button v-if="calc.example" type="button" class="button text-xs" @click="settings = example()">
          <RotateCcw class="size-3.5" aria-hidden="true" />Example
        </button>
      </div>
    </div>
    <div class="min-w-0 space-y-3">
      <RecordPicker v-if="calc.roles" :roles="calc.roles" @picked="record = $event" />
      <section class="panel">
        <h2 class="mb-2">Entered</h2>
        <SettingsField
          :model-value="settings"
          :field="form"
          path="settings"
          :prefer="units.prefer.value"
          :problem="problem"
          hide-label
          @update:model-value="settings = $event as Record<string, unknown>"
        />
      </section>
    </div>
    <div class="min-w-0 space-y-3" aria-live="polite">
      <ProblemNote :problem="elsewhere" />
      <MethodResults
        v-if="output"
        :output="output"
        :prefer="units.prefer.value"
        :name="id"
        :class="busy ? 'opacity-80' : ''"
      />
      <section v-else class="panel text-sm text-quiet">
        {{
          calc.roles && !record
            ? 'Choose a logger’s file to begin.'
            : problem
              ? 'There is no result yet: see the note at the entry.'
              : 'Calculating …'
        }}
      </section>
      <MonteCarloPanel v-if="canDraw" :setup="setup" :prefer="units.prefer.value" />
    </div>
  </main>
</template>
