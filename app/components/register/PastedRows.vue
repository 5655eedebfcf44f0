<script setup lang="ts">
import Papa from 'papaparse'
import {
  fromWords,
  isOpenNumber,
  readRows,
  writeCell,
  type HypometError,
  type Register,
  type RegisterContext,
  type Row,
} from '@hypomet/core'
import { refusalOf } from '~/composables/register/rowText'
import type { RegisterRow, RowChange } from '~/composables/register/useRegister'

/**
 * Rows from a spreadsheet or a file before they are taken: what they say, what is wrong where, and mended in place. All
 * or nothing.
 */
const props = defineProps<{
  register: Register
  context: RegisterContext
  text: string | null
  from?: string | undefined
  onto: RegisterRow[]
  rows: RegisterRow[]
  base?: Row
  write: (batch: { creates: Row[]; changes: RowChange[] }) => Promise<HypometError | null>
}>()
const emit = defineEmits<{ close: [] }>()
const lines = ref<string[][]>([])
const refused = shallowRef<HypometError | null>(null)
const busy = ref(false)

watch(
  () => props.text,
  text => {
    refused.value = null
    if (text !== null) lines.value = linesOf(text)
  },
  { immediate: true },
)

/** A JSON export is put into lines like a sheet's. */
function linesOf(text: string): string[][] {
  const plain = text.replace(/^\ufeff/, '')
  if (/^\s*[[{]/.test(plain)) {
    try {
      const read = JSON.parse(plain) as Row[] | { rows: Row[] }
      const rows = Array.isArray(read) ? read : read.rows
      const cell = (f: Register['fields'][number], row: Row) =>
        f.type === 'ref' && typeof row[f.key] === 'string'
          ? String(row[f.key])
          : writeCell(f, row[f.key], row, props.context)
      return [
        ['No.', ...props.register.fields.map(f => f.title)],
        ...rows.map(row => [
          typeof row['id'] === 'number' ? String(row['id']) : '',
          ...props.register.fields.map(f => cell(f, row)),
        ]),
      ]
    } catch {
      /* read as a table, which says what is wrong */
    }
  }
  return Papa.parse<string[]>(plain, { skipEmptyLines: 'greedy' }).data.map(cells => cells.map(fromWords))
}

const reading = computed(() =>
  readRows(props.register, lines.value, props.context, {
    ...(props.from ? { from: props.from } : {}),
    ...(props.base ? { base: props.base } : {}),
    existing: id => props.rows.find(r => r.id === id),
  }),
)
/** Rows with a number change that row; without a header, those pasted onto rows change these. */
const planned = computed(() =>
  reading.value.rows.map((r, i) => {
    const target =
      r.id !== null
        ? (props.rows.find(x => x.id === r.id) ?? null)
        : reading.value.hasHeader
          ? null
          : (props.onto[i] ?? null)
    const row: Row = target ? { ...target, ...r.values } : r.values
    return {
      target,
      values: r.values,
      row,
      missing: r.id !== null && !target ? r.id : null,
      refusal: refusalOf(props.register, row, props.context),
    }
  }),
)
/** A cell that may be two numbers, where the sheet does not tell. */
const openCell = computed(() =>
  reading.value.problems.some(p => p.code === 'number-ambiguous')
    ? (lines.value.flat().find(c => isOpenNumber(c)) ?? '')
    : '',
)
const first = computed(() => (reading.value.hasHeader ? 2 : 1))
interface Problem {
  row: number
  column: string
  message: string
}
const problems = computed<Problem[]>(() => [
  ...reading.value.problems,
  ...planned.value.flatMap((p, i): Problem[] => {
    const row = i + first.value
    if (p.missing !== null)
      return [
        {
          row,
          column: '',
          message: `There is no ${props.register.one.toLowerCase()} no. ${p.missing}; empty the number for a new one.`,
        },
      ]
    if (!p.refusal || reading.value.problems.some(x => x.row === row)) return []
    return [
      {
        row,
        column: props.register.fields.find(f => f.key === p.refusal!.place.path)?.title ?? '',
        message: p.refusal.message,
      },
    ]
  }),
  ...(refused.value
    ? [
        {
          row: refused.value.place.row ? rowOfBatch(refused.value.place.row) : 0,
          column: props.register.fields.find(f => f.key === refused.value!.place.path)?.title ?? '',
          message: refused.value.message,
        },
      ]
    : []),
])
const ordered = computed(() =>
  [...planned.value.entries()].sort(([, a], [, b]) => Number(a.target !== null) - Number(b.target !== null)),
)
/** The server counts over what is made, then what is changed. */
const rowOfBatch = (n: number) => (ordered.value[n - 1]?.[0] ?? 0) + first.value
const creates = computed(() => planned.value.filter(p => !p.target).length)
const problemAt = (row: number) => problems.value.filter(p => p.row === row)

async function take(): Promise<void> {
  busy.value = true
  refused.value = await props.write({
    creates: ordered.value.filter(([, p]) => !p.target).map(([, p]) => p.values),
    changes: ordered.value
      .filter(([, p]) => p.target)
      .map(([, p]) => ({ id: p.target!.id, version: p.target!.version, values: p.values })),
  })
  busy.value = false
  if (!refused.value) emit('close')
}
const count = (n: number) => `${n} ${(n === 1 ? props.register.one : props.register.many).toLowerCase()}`
const about = computed(
  () =>
    `${count(creates.value)} new, ${planned.value.length - creates.value} changed. ` +
    'Nothing is saved until all of it fits; cells can be corrected here.',
)
</script>

<template>
  <BaseDialog :open="text !== null" wide title="From a sheet" :description="about" @close="emit('close')">
    <label v-if="lines.length === 0" class="block"
      ><span class="label">Paste here: rows from a spreadsheet, with or without their titles on top</span
      ><textarea
        v-focus
        class="field font-mono text-xs"
        rows="6"
        @input="lines = linesOf(($event.target as HTMLTextAreaElement).value)"
      />
    </label>
    <ul
      v-if="problems.length > 0"
      role="alert"
      class="mb-2 max-h-28 overflow-y-auto rounded-md border border-fail px-2 py-1 text-sm text-fail"
    >
      <li v-for="(p, i) in problems" :key="i">
        <strong v-if="p.row"
          >Row {{ p.row }}<template v-if="p.column">, {{ p.column }}</template
          >: </strong
        >{{ p.message }}
      </li>
    </ul>
    <NumberQuestion v-if="openCell" class="mb-2" :text="openCell" />
    <div v-if="lines.length > 0" class="max-h-80 overflow-auto border border-line">
      <table class="data text-xs">
        <tbody>
          <tr v-for="(line, r) in lines" :key="r" :class="problemAt(r + 1).length > 0 ? 'bg-caution-ground' : ''">
            <th scope="row" class="text-quiet">{{ r + 1 }}</th>
            <td v-for="(_, c) in line" :key="c" class="p-0!">
              <input
                v-model="lines[r]![c]"
                class="w-full min-w-20 bg-transparent px-1 py-0.5"
                :aria-label="`Row ${r + 1}, cell ${c + 1}`"
                @input="refused = null"
              />
            </td>
            <td class="p-0!">
              <button
                type="button"
                class="px-1 text-quiet"
                :aria-label="`Leave row ${r + 1} out`"
                @click="lines.splice(r, 1)"
              >
                ×
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="mt-3 flex justify-end gap-2">
      <button type="button" class="button" @click="emit('close')">Cancel</button
      ><button
        type="button"
        class="button-main"
        :disabled="busy || problems.length > 0 || planned.length === 0"
        @click="take"
      >
        Take {{ count(planned.length) }}
      </button>
    </div>
  </BaseDialog>
</template>
