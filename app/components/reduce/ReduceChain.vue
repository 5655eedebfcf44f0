<script setup lang="ts">
import {
  CHAIN_LINKS,
  deriveField,
  formOf,
  type AnyFamily,
  type ChainLink,
  type DeclaredOwn,
  type FormField,
  type HypometError,
  type MethodOutput,
  type SettingCheck,
  type UnitPreference,
} from '@hypomet/core'
import type { AskedOwn } from '~/composables/reduce/ownForm'
import type { TestPage } from '~/types/api'
import type { Further } from '~/workers/reducer.worker'

/** The chain from the record to the results, link by link, each with what can be said at it. */
const props = defineProps<{
  family: AnyFamily
  modelValue: Record<string, unknown>
  problem: HypometError | null
  prefer: UnitPreference
  datasets: TestPage['datasets']
  roles: string[]
  span: readonly [number, number] | null
  /** Keys that stand as they were proposed. */
  open: readonly string[]
  checks: readonly SettingCheck[]
  testId: number
  further: readonly Further[]
  output: MethodOutput | null
  article: TestPage['article']
}>()
const emit = defineEmits<{
  set: [key: string, value: unknown]
  accept: [key: string]
  renew: []
  declare: [own: DeclaredOwn[]]
}>()

const TITLES: Record<ChainLink, string> = {
  zero: 'Zero',
  derive: 'Derive',
  filter: 'Filter and correction',
  window: 'Window and steps',
  result: 'Result',
}
const linkOf = (f: FormField): ChainLink =>
  props.family.links?.[f.key] ??
  (f.key === 'derive' ? 'derive' : f.key.startsWith('zero') ? 'zero' : f.type === 'window' ? 'window' : 'result')
const fields = computed(() => {
  const form = formOf(props.family.settings)
  return form.type === 'group' ? [...form.fields, derive.value] : []
})
/** Any kind of test may work out channels from others. */
const derive = computed((): FormField => ({ ...formOf(deriveField), key: 'derive', required: false }))
const links = computed(() =>
  CHAIN_LINKS.map(link => ({ link, title: TITLES[link], fields: fields.value.filter(f => linkOf(f) === link) })).filter(
    l => l.fields.length > 0,
  ),
)
const said = (l: { fields: FormField[] }) =>
  l.fields.filter(f => props.modelValue[f.key] !== undefined && props.modelValue[f.key] !== null).length
const isWrong = (l: { fields: FormField[] }) =>
  l.fields.some(f => props.problem?.place.path?.startsWith(`settings.${f.key}`))
const isOpen = (l: { link: ChainLink; fields: FormField[] }) =>
  isWrong(l) || (l.link === 'filter' ? l.fields.some(f => f.required) : l.link !== 'derive' || said(l) > 0)
const main = computed(() => props.datasets[0]!)
const joined = computed(() => props.datasets.filter(d => d.joinsId === main.value.id))

const checksOf = (f: FormField) => props.checks.filter(c => c.path === f.key || c.path.startsWith(`${f.key}.`))
/** What a proposal may get wrong; a number of the plan is the plan's. */
const isProposed = (f: FormField) => props.open.includes(f.key) && (isWindow(f) || linkOf(f) === 'zero')

/** Windows are placed where they can be seen, and are then moved on the figure. */
const isWindow = (f: FormField) =>
  (f.type === 'window' && f.kind === 'time') || (f.type === 'lists' && f.kind === 'time')
function place(f: FormField): void {
  if (!props.span) return
  const [from, to] = props.span
  const window = f.key.startsWith('zero') ? (f.key === 'zeroEnd' ? [0.94, 0.99] : [0, 0.03]) : [0.45, 0.55]
  const placed = window.map(share => Number((from + share * (to - from)).toPrecision(6)))
  emit('set', f.key, f.type === 'lists' ? [...((props.modelValue[f.key] ?? []) as unknown[]), placed] : placed)
}
</script>

<template>
  <div class="space-y-2">
    <details class="panel py-2" open>
      <summary class="flex cursor-pointer items-baseline justify-between gap-2">
        <h2>1 · Import and clock</h2>
        <span class="text-xs text-quiet">{{ 1 + joined.length }} {{ joined.length === 0 ? 'record' : 'records' }}</span>
      </summary>
      <p class="mt-1 break-words text-sm">
        <span class="font-medium">{{ main.name }}</span><br /><span class="text-quiet"
          >{{ main.rows.toLocaleString('en') }} rows · SHA-256 {{ main.sha256?.slice(0, 12) }}</span
        >
      </p>
      <p v-for="d in joined" :key="d.id" class="text-sm">
        with <span class="font-medium">{{ d.name }}</span><br /><span class="text-quiet"
          >{{ d.rows.toLocaleString('en') }} rows, clock set by {{ d.clockOffset }} s</span
        >
      </p>
      <p v-for="w in main.warnings" :key="w.code + w.message" class="text-xs text-open">{{ w.message }}</p>
      <NuxtLink :to="`/records/${main.id}`" class="text-sm">Look at the record</NuxtLink>
      <ChannelsRead :key="main.id" :test-id="testId" @named="emit('renew')" />
    </details>
    <details v-for="(l, i) in links" :key="l.link" class="panel py-2" :open="isOpen(l)">
      <summary class="flex cursor-pointer items-baseline justify-between gap-2">
        <h2>{{ i + 2 }} · {{ l.title }}</h2>
        <span :class="['text-xs', isWrong(l) ? 'font-semibold text-fail' : 'text-quiet']">{{
          isWrong(l) ? 'look here' : said(l) === 0 ? 'none' : `${said(l)} set`
        }}</span>
      </summary>
      <p v-if="l.link === 'derive'" class="mt-1 text-xs text-quiet">
        From {{ roles.join(', ') }}: “deflection - frame”, “(a + b) / 2”, lowpass, deriv, integ.
      </p>
      <div class="mt-1 space-y-2">
        <div v-for="f in l.fields" :key="f.key">
          <SettingsField
            :field="f"
            :model-value="modelValue[f.key]"
            :path="`settings.${f.key}`"
            :prefer="prefer"
            :problem="problem"
            @update:model-value="emit('set', f.key, $event)"
          />
          <WindowMark
            :is-proposed="isProposed(f)"
            :checks="checksOf(f)"
            @accept="emit('accept', f.key)"
            @take="emit('set', f.key, $event)"
          />
          <div v-if="isWindow(f) && span" class="mt-0.5 flex gap-1">
            <button
              v-if="f.type === 'lists' || modelValue[f.key] == null"
              type="button"
              class="button px-1.5 text-xs"
              @click="place(f)"
            >
              {{ f.type === 'lists' ? 'Add one on the figure' : 'Place it on the figure' }}
            </button>
            <button
              v-if="!f.required && modelValue[f.key] != null"
              type="button"
              class="button px-1.5 text-xs"
              @click="emit('set', f.key, null)"
            >
              {{ f.type === 'lists' ? 'Clear all' : 'Clear' }}
            </button>
          </div>
        </div>
      </div>
    </details>
    <OwnResults
      :model-value="(modelValue['own'] ?? []) as AskedOwn[]"
      :roles="roles"
      :further="further"
      :declared="article.own"
      :output="output"
      :problem="problem"
      :article="article.name"
      @set="emit('set', 'own', $event)"
      @declare="emit('declare', $event)"
    />
  </div>
</template>
