<script setup lang="ts">
import {
  formatQuantity,
  HypometError,
  isOpenNumber,
  kindOfField,
  preferredUnit,
  quantityToSi,
  writeCell,
  type Field,
  type Kind,
  type Quantity,
  type Register,
  type RegisterContext,
  type Row,
} from '@hypomet/core'
import { formFields, readTexts, refusalOf, textsOf } from '~/composables/register/rowText'
import type { RegisterRow } from '~/composables/register/useRegister'

/**
 * A row of a register as a form drawn from its fields. Of two people who save, the later sees what the other made of
 * it.
 */
const props = defineProps<{
  register: Register
  row: RegisterRow | null
  base?: Row
  context: RegisterContext
  action: string
  hide?: string[]
  save: (values: Row, version: number | null) => Promise<HypometError | null>
}>()
const emit = defineEmits<{ saved: []; cancel: [] }>()

function start() {
  const given: Row = {
    ...Object.fromEntries(props.register.fields.map(f => [f.key, f.fallback ?? null])),
    ...props.base,
    ...props.row,
  }
  return textsOf(
    props.register,
    props.row ? given : { ...given, ...props.register.propose?.(given, props.context) },
    props.context,
  )
}
const texts = ref(start())
const original = shallowRef(start())
const version = ref(props.row?.version ?? null)
const problems = ref<Record<string, string>>({})
const problem = shallowRef<HypometError | null>(null)
const theirs = shallowRef<Record<string, string> | null>(null)
const busy = ref(false)
const id = useId()
const draft = useDraft(
  () => `${props.register.id}-${props.row?.id ?? JSON.stringify(props.base ?? {})}`,
  texts,
  version,
  () => Object.keys(texts.value).some(k => texts.value[k] !== original.value[k]),
)
onMounted(draft.restore)
function afresh(): void {
  texts.value = { ...original.value }
  version.value = props.row?.version ?? null
  draft.clear()
}
function leave(): void {
  draft.clear()
  emit('cancel')
}

const fields = computed(() => formFields(props.register).filter(f => !props.hide?.includes(f.key)))
/** What the form around gathers beside the fields: a curve. */
const extra = ref<Row>({})
const reading = computed(() =>
  readTexts(props.register, texts.value, { ...props.base, ...props.row, ...extra.value }, props.context),
)
// A newer row from the server replaces what was not touched here; what was stays, and saving it tells of the other.
watch(
  () => props.row,
  row => {
    if (!row || row.version === version.value || busy.value) return
    const fresh = textsOf(props.register, row, props.context)
    const untouched = Object.keys(texts.value).every(k => texts.value[k] === original.value[k])
    if (!untouched) return
    texts.value = { ...fresh }
    original.value = fresh
    version.value = row.version
  },
)

function proposed(f: Field): void {
  if (props.row || !props.register.propose) return
  const { row } = reading.value
  for (const [key, value] of Object.entries(props.register.propose(row, props.context))) {
    const field = props.register.fields.find(x => x.key === key)!
    if (key !== f.key && (f.key === 'quantity' || texts.value[key] === ''))
      texts.value[key] = writeCell(field, value, row, props.context)
  }
}

const isNumber = (f: Field) => f.type === 'quantity' || f.type === 'number'
/** The kind of a band that was typed without its unit. */
function bandKind(f: Field): Kind | null {
  if (f.type !== 'quantity' || !f.band || !/^[\s±+/-]*[\d.,]+\s*$/.test(texts.value[f.key]!)) return null
  const kind = kindOfField(f, reading.value.row, props.context)
  return kind === 'any' || kind === 'ratio' ? null : kind
}
function put(f: Field, text: string): void {
  texts.value[f.key] = text
  problems.value = reading.value.problems
}
/** What may be two numbers is asked about at once. */
function left(f: Field): void {
  const why = reading.value.problems[f.key]
  if (isNumber(f) && (isOpenNumber(texts.value[f.key]!) || bandKind(f)) && why)
    problems.value = { ...problems.value, [f.key]: why }
  else proposed(f)
}
/** What is understood of a number that is written otherwise than it is kept. */
function readBack(f: Field): string {
  const typed = texts.value[f.key]!.trim()
  if (!isNumber(f) || typed === '' || typed === original.value[f.key] || reading.value.problems[f.key]) return ''
  const kept = writeCell(f, reading.value.row[f.key], reading.value.row, props.context)
  const kind = f.type === 'quantity' ? kindOfField(f, reading.value.row, props.context) : null
  const value = reading.value.row[f.key]
  const other =
    kind && kind !== 'any' && typeof value === 'object' && value !== null
      ? formatQuantity(quantityToSi(value as Quantity, kind), kind, { prefer: props.context.prefer, digits: 4 })
      : ''
  const own = kind && kind !== 'any' ? preferredUnit(kind, props.context) : ''
  const isOwn = other === '' || kept.endsWith(` ${own}`)
  return kept === typed && isOwn ? '' : `read as ${kept}${isOwn ? '' : ` = ${other}`}`
}

async function submit(): Promise<void> {
  const { row, problems: found } = reading.value
  problems.value = found
  problem.value = null
  if (Object.keys(found).length > 0) return
  const refusal = refusalOf(props.register, row, props.context)
  if (refusal) return show(refusal)
  const values = Object.fromEntries(
    fields.value
      .filter(f => !props.row || texts.value[f.key] !== original.value[f.key])
      .map(f => [f.key, row[f.key] ?? null]),
  )
  busy.value = true
  const refused = await props.save({ ...(props.row ? {} : props.base), ...values, ...extra.value }, version.value)
  busy.value = false
  if (!refused) {
    draft.clear()
    return emit('saved')
  }
  show(refused)
}
function show(e: HypometError): void {
  const key = e.place.path ?? ''
  if (e.code !== 'changed-meanwhile' && fields.value.some(f => f.key === key))
    problems.value = { ...problems.value, [key]: e.message }
  else problem.value = e
  if (e.code === 'changed-meanwhile' && props.row) theirs.value = textsOf(props.register, props.row, props.context)
}
// The rows are read anew after a refusal: theirs is the row as it now stands.
watch(
  () => props.row,
  row => {
    if (theirs.value && row) theirs.value = textsOf(props.register, row, props.context)
  },
)
function takeTheirs(): void {
  texts.value = { ...theirs.value! }
  settle()
}
function settle(): void {
  original.value = { ...theirs.value! }
  version.value = props.row!.version
  theirs.value = null
  problem.value = null
  problems.value = {}
}
async function saveMine(): Promise<void> {
  settle()
  await submit()
}
defineExpose({ submit })
</script>

<template>
  <form class="space-y-3" @submit.prevent="submit">
    <div class="grid grid-cols-2 gap-x-3 gap-y-2">
      <div
        v-for="f in fields"
        :key="f.key"
        :class="f.type === 'long' || f.key === register.name ? 'col-span-2' : ''"
        @change="left(f)"
      >
        <div class="flex items-baseline gap-1.5">
          <label :for="id + f.key" class="label">{{ f.title }}</label><span
            v-if="readBack(f)"
            class="truncate text-2xs text-quiet"
            data-read-back
            >{{ readBack(f) }}</span
          >
        </div>
        <FieldInput
          :id="id + f.key"
          v-model="texts[f.key]!"
          :field="f"
          :row="reading.row"
          :context="context"
          :invalid="!!problems[f.key]"
          :described-by="problems[f.key] ? `${id}${f.key}p` : undefined"
          :disabled="(f.fixed ?? false) && row !== null"
        />
        <template v-if="problems[f.key]">
          <p :id="`${id}${f.key}p`" class="problem">{{ problems[f.key] }}</p>
          <NumberQuestion
            v-if="isNumber(f) && isOpenNumber(texts[f.key]!)"
            :text="texts[f.key]!"
            @answered="problems = reading.problems"
          />
          <BandQuestion
            v-else-if="bandKind(f)"
            :text="texts[f.key]!"
            :kind="bandKind(f)!"
            :prefer="context.prefer"
            @chosen="put(f, $event)"
          />
        </template>
        <p v-else-if="f.hint" class="mt-0.5 text-2xs text-quiet">{{ f.hint }}</p>
        <p v-if="theirs && theirs[f.key] !== texts[f.key]" class="mt-0.5 text-xs text-open">
          Now saved by the other: {{ theirs[f.key] || '(empty)' }}
        </p>
      </div>
      <slot
        name="fields"
        :row="reading.row"
        :set="
          (values: Row) => {
            extra = { ...extra, ...values }
          }
        "
      />
    </div>
    <p v-if="draft.restored.value" class="text-xs text-open">
      This is what you entered before and did not save.
      <button type="button" class="underline" @click="afresh">Begin afresh</button>
    </p>
    <ProblemNote :problem="problem" />
    <div class="flex justify-end gap-2">
      <template v-if="theirs"
        ><button type="button" class="button" @click="takeTheirs">Take theirs</button
        ><button type="button" class="button-main" :disabled="busy" @click="saveMine">
          Save mine over it
        </button></template
      >
      <template v-else
        ><slot name="buttons" /><button type="button" class="button" @click="leave">Cancel</button
        ><button class="button-main" :disabled="busy">{{ action }}</button></template
      >
    </div>
  </form>
</template>
