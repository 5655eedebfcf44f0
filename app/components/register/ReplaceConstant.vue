<script setup lang="ts">
import {
  familyOutlines,
  checkRow,
  formatQuantity,
  isHypometError,
  type HypometError,
  type Kind,
  type Register,
  type RegisterContext,
  type Row,
  type UnitPreference,
} from '@hypomet/core'
import { readTexts } from '~/composables/register/rowText'
import type { RegisterRow } from '~/composables/register/useRegister'
import type { Moved } from '~/types/api'

/**
 * By decision another value takes a constant's place: what was sized from the old one, how it moves, and what is sized
 * anew.
 */
const props = defineProps<{ row: RegisterRow | null; register: Register; prefer: UnitPreference }>()
const emit = defineEmits<{ close: [] }>()
const registers = useRegistersStore()
const undo = useUndoStore()
const { busy, problem, run } = useAction()
const context = computed<RegisterContext>(() => ({ refs: {}, prefer: props.prefer, families: familyOutlines }))
const texts = ref<Record<string, string>>({})
const problems = ref<Record<string, string>>({})
const moved = shallowRef<{ moved: Moved[]; before: number; after: number; kind: Kind } | null>(null)
const chosen = ref<number[]>([])
const fields = computed(() =>
  props.register.fields.filter(f => ['entered', 'origin', 'n', 'spread', 'source'].includes(f.key)),
)
const id = useId()

/** What a set of specimens brought along. */
const { query } = useRoute()
const said = (key: string) => (typeof query[key] === 'string' ? query[key] : '')
watch(
  () => props.row,
  row => {
    texts.value = {
      entered: said('measured'),
      origin: 'Measured',
      n: said('n'),
      spread: said('spread'),
      source: said('source'),
    }
    moved.value = null
    problems.value = {}
    problem.value = null
    if (row) chosen.value = []
  },
)
function read(): Row | null {
  const { row, problems: found } = readTexts(
    props.register,
    texts.value,
    { subject: props.row!['subject'], property: props.row!['property'] },
    context.value,
  )
  problems.value = found
  if (Object.keys(found).length > 0 || texts.value['entered']!.trim() === '') return null
  try {
    return checkRow(props.register, row, context.value)
  } catch (e) {
    if (!isHypometError(e)) throw e
    problems.value = { [e.place.path ?? 'entered']: e.message }
    return null
  }
}
const look = useDebounceFn(
  () =>
    run(async () => {
      const replacement = props.row && read()
      if (!replacement) return void (moved.value = null)
      const answer = await registers.movedBy(props.row!.id, replacement)
      if (!moved.value)
        chosen.value = answer.moved.filter(m => !m.tested || m.tests.some(t => !t.ran)).map(m => m.revisionId)
      moved.value = answer
    }),
  250,
)
watch(texts, () => props.row && look(), { deep: true })

const replace = () =>
  run(async () => {
    const replacement = read()
    if (!replacement) return
    const { step } = await registers.replaceConstant(props.row!.id, {
      replacement,
      version: props.row!.version,
      recompute: chosen.value,
    })
    undo.did(step, `${String(props.row!['property'])} of ${String(props.row!['subject'])} replaced`)
    emit('close')
  })
/** A line for each calculated result; the revision stands beside the first. */
type Line = Moved['tests'][number]['results'][number]
const lines = computed(
  () =>
    moved.value?.moved.flatMap(
      (
        m,
      ): {
        m: Moved
        line: { test: Moved['tests'][number]; r: Line; first: boolean; span: number } | null
        first: boolean
        span: number
      }[] => {
        const results = m.tests.flatMap(t =>
          t.results.map((r, i) => ({ test: t, r, first: i === 0, span: t.results.length })),
        )
        return results.length === 0
          ? [{ m, line: null, first: true, span: 1 }]
          : results.map((line, i) => ({ m, line, first: i === 0, span: results.length }))
      },
    ) ?? [],
)
const show = (v: number, kind: Kind) => formatQuantity(v, kind, { prefer: props.prefer })
const change = (a: number, b: number) =>
  a === b ? 'stays' : a === 0 ? '' : `${b >= a ? '+' : '−'}${Math.abs(100 * (b / a - 1)).toFixed(1)} %`
const complaint = (e: HypometError | null, key: string) =>
  problems.value[key] ?? (e?.place.path === key ? e.message : undefined)
</script>

<template>
  <BaseDialog
    :open="row !== null"
    wide
    :title="row ? `Replace ${row['property']} of ${row['subject']}` : ''"
    description="The old value stays in the record. Results and locked predictions stay as they are; what you
      choose below is sized from the new one."
    @close="emit('close')"
  >
    <form v-if="row" class="space-y-3" @submit.prevent="replace">
      <div class="grid grid-cols-5 gap-2">
        <div
          v-for="f in fields"
          :key="f.key"
          :class="f.key === 'source' ? 'col-span-5' : f.key === 'entered' ? 'col-span-2' : ''"
        >
          <label :for="id + f.key" class="label">{{ f.key === 'entered' ? 'New value' : f.title }}</label>
          <FieldInput
            :id="id + f.key"
            v-model="texts[f.key]!"
            :field="f"
            :row="row"
            :context="context"
            :invalid="!!complaint(problem, f.key)"
          />
          <p v-if="complaint(problem, f.key)" class="problem">{{ complaint(problem, f.key) }}</p>
        </div>
      </div>
      <section v-if="moved" aria-live="polite">
        <p class="text-sm">
          {{ show(moved.before, moved.kind) }} → <strong>{{ show(moved.after, moved.kind) }}</strong>{{ ' ' }}
          <span class="text-quiet">({{ change(moved.before, moved.after) }})</span>.
          {{
            moved.moved.length === 0
              ? 'Nothing was sized from the old value.'
              : 'What was sized from the old value, and how its calculation moves:'
          }}
        </p>
        <table v-if="moved.moved.length > 0" class="data mt-1">
          <thead>
            <tr>
              <th>Size anew</th>
              <th>Sized from it</th>
              <th>Test</th>
              <th>Calculation</th>
              <th class="number">Old</th>
              <th class="number">New</th>
              <th class="number">Moves by</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(l, i) in lines" :key="i">
              <td v-if="l.first" :rowspan="l.span" class="align-top!">
                <input
                  v-model="chosen"
                  type="checkbox"
                  :value="l.m.revisionId"
                  :aria-label="`Size ${l.m.article} ${l.m.label} anew`"
                />
              </td>
              <td v-if="l.first" :rowspan="l.span" class="align-top! font-medium">{{ l.m.article }} {{ l.m.label }}</td>
              <template v-if="l.line">
                <td v-if="l.line.first" :rowspan="l.line.span" class="align-top!">
                  {{ l.line.test.title
                  }}<span class="block text-xs text-quiet">{{
                    l.line.test.ran ? 'run: its locked prediction stays' : 'not run yet'
                  }}</span>
                </td>
                <td>{{ l.line.r.label }}</td>
                <td class="number whitespace-nowrap">{{ show(l.line.r.before, l.line.r.kind) }}</td>
                <td class="number whitespace-nowrap font-semibold">{{ show(l.line.r.after, l.line.r.kind) }}</td>
                <td class="number whitespace-nowrap">{{ change(l.line.r.before, l.line.r.after) }}</td>
              </template>
              <td v-else colspan="5" class="text-quiet">no plan to calculate</td>
            </tr>
          </tbody>
        </table>
      </section>
      <ProblemNote v-if="problem && !problem.place.path" :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Cancel</button
        ><button class="button-main" :disabled="busy || moved === null">
          Replace{{ chosen.length > 0 ? `, and size ${chosen.length} anew` : '' }}
        </button>
      </div>
    </form>
  </BaseDialog>
</template>
