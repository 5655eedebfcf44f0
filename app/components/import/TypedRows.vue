<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import * as z from 'zod'
import {
  families,
  findUnit,
  formOf,
  isOpenNumber,
  numberOf,
  preferredUnit,
  rolesOfPlan,
  styleOf,
  whyNoNumber,
  writeCsv,
  type Kind,
  type Quantity,
} from '@hypomet/core'
import { brokeOf, RUN_ENDS, type RunEnd } from '~/composables/run/runEnds'

/**
 * Readings written down at the rig – call-outs, rows of a bench, pictures of a video – typed or pasted into a sheet;
 * kept as a file like any other.
 */
const { page, units, store } = useTest()
const { busy, problem, run } = useAction()
const importing = useImportingStore()
const { follow } = useJob()

interface Column {
  role: string
  label: string
  kind: Kind | 'text'
  optional: boolean
}
const columns = computed(() =>
  Object.entries(rolesOfPlan(page.value.test.family, page.value.test.plan))
    .filter(([role, r]) => role !== '*' && r.kind !== 'any')
    .map(([role, r]): Column => ({
      role,
      label: r.label,
      kind: r.kind as Kind | 'text',
      optional: r.optional === true || role === 't',
    })),
)
/** The unit that the plan's rungs are written in, where they are of this kind. */
const plannedUnit = (c: Column): string | null => {
  const rungs = (page.value.test.plan?.['rungs'] ?? []) as { target: unknown }[]
  const written = rungs.map(r => r.target).find(t => typeof t === 'object' && t !== null) as Quantity | undefined
  return written && page.value.view?.commanded.kind === c.kind ? written.unit : null
}
/** Pressures of a bench are small ones. */
const usualUnit = (c: Column) =>
  c.kind === 'text'
    ? ''
    : plannedUnit(c)
      ? plannedUnit(c)!
      : c.kind === 'pressure' && units.prefer.value.pressure === 'MPa'
        ? 'kPa'
        : preferredUnit(c.kind, { prefer: units.prefer.value })
const empty = () => Array.from({ length: 6 }, () => columns.value.map(() => ''))
const draft = useLocalStorage<{ units: Record<string, string>; rows: string[][] }>(
  `hypomet-typed-${page.value.test.id}`,
  { units: {}, rows: [] },
  { initOnMounted: true },
)
/** A draft may be of another plan, with more columns or fewer. */
const rows = computed(() =>
  draft.value.rows.length > 0 ? draft.value.rows.map(r => columns.value.map((_, i) => r[i] ?? '')) : empty(),
)
const unitOf = (c: Column) => draft.value.units[c.role] ?? usualUnit(c)
const end = ref<RunEnd>(RUN_ENDS[0].value)
const broke = reactive({ mode: '', place: '' })

const put = (next: string[][]) => {
  draft.value = { ...draft.value, rows: next }
}
function setCell(r: number, c: number, text: string): void {
  put(rows.value.with(r, rows.value[r]!.with(c, text)))
}
/** A block from a spreadsheet fills from this cell on. */
function paste(e: ClipboardEvent, r: number, c: number): void {
  const text = e.clipboardData?.getData('text/plain') ?? ''
  if (!/[\t\n]/.test(text.trim())) return
  e.preventDefault()
  const block = text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map(l => l.split('\t'))
  const next = rows.value.map(row => [...row])
  block.forEach((line, i) => {
    next[r + i] ??= columns.value.map(() => '')
    line.forEach((cell, k) => {
      if (c + k < columns.value.length) next[r + i]![c + k] = cell.trim()
    })
  })
  put(next)
}
function enterDown(e: KeyboardEvent, r: number): void {
  const cell = e.target as HTMLElement
  const c = [...cell.closest('tr')!.querySelectorAll('input')].indexOf(cell as HTMLInputElement)
  const table = cell.closest('tbody')!
  if (r === rows.value.length - 1) put([...rows.value, columns.value.map(() => '')])
  void nextTick(() => table.querySelectorAll('tr')[r + 1]?.querySelectorAll('input')[c]?.focus())
}

const filled = computed(() => rows.value.filter(r => r.some(c => c.trim() !== '')))
const used = computed(() =>
  columns.value.map((c, i) => ({ ...c, i })).filter(c => filled.value.some(r => r[c.i]!.trim() !== '')),
)
/** Where one cell shows how its sheet writes numbers, the others follow. */
const numbers = useNumberStyle()
const style = computed(
  () =>
    styleOf(filled.value.flatMap(row => used.value.flatMap(c => (c.kind === 'text' ? [] : [row[c.i]!])))) ??
    numbers.style.value,
)
/** Where readings count from a zero, somebody must have read it. */
const wantsZero = computed(() => {
  const form = formOf(families[page.value.test.family]?.settings ?? z.object({}))
  if (form.type !== 'group' || !form.fields.some(f => f.key === 'zeroStart' && f.required)) return false
  const load = used.value.find(c => c.role !== 't' && !c.optional)
  return load !== undefined && !filled.value.some(row => numberOf(row[load.i]!, style.value) === 0)
})
const addZeros = () => put([columns.value.map(c => (c.role === 't' || c.kind === 'text' ? '' : '0')), ...filled.value])

/** A cell that may be two numbers, where the others do not tell. */
const openCell = computed(() =>
  style.value ? '' : (filled.value.flatMap(row => used.value.map(c => row[c.i]!)).find(isOpenNumber) ?? ''),
)
const unready = computed(() => {
  if (filled.value.length === 0) return 'Type at least one row.'
  const lacking = columns.value.find(c => !c.optional && !used.value.some(u => u.role === c.role))
  if (lacking) return `${lacking.label} is needed.`
  const odd = used.value.find(c => c.kind !== 'text' && !findUnit(unitOf(c), 'gravity'))
  if (odd) return `“${unitOf(odd)}” is not a unit (${odd.label}).`
  for (const [r, row] of filled.value.entries())
    for (const c of used.value)
      if (c.kind !== 'text' && row[c.i]!.trim() !== '' && !Number.isFinite(numberOf(row[c.i]!, style.value)))
        return `Row ${r + 1}, ${c.label}: ${whyNoNumber(row[c.i]!, style.value)}`
  return ''
})
const take = () =>
  run(async () => {
    const cell = (c: { kind: Kind | 'text'; i: number }, row: string[]) =>
      c.kind === 'text' ? row[c.i]! : row[c.i]!.trim() === '' ? null : numberOf(row[c.i]!, style.value)
    // A file of one column is no table: its rows are counted beside it.
    const text = writeCsv([
      [...used.value.map(c => c.role), 'row'],
      ...filled.value.map((row, i) => [...used.value.map(c => cell(c, row)), i + 1]),
    ])
    const testId = page.value.test.id
    const name = 'typed readings.csv'
    const { sha256 } = await importing.send(testId, new File([text], name))
    const channels = Object.fromEntries(
      used.value.map(c => [c.role, c.kind === 'text' ? { column: c.role } : { column: c.role, unit: unitOf(c) }]),
    )
    const { jobId } = await importing.start(testId, {
      sha256,
      fileName: name,
      channels,
      reading: { delimiter: ',', numbers: 'point', typed: true },
      end: end.value,
      broke: brokeOf(end.value, broke),
    })
    await follow(jobId)
    draft.value = { units: draft.value.units, rows: [] }
    await store.refresh()
    await navigateTo(`/tests/${page.value.test.id}/reduce`)
  })
</script>

<template>
  <section class="panel space-y-2" data-typed>
    <h2>Type the readings</h2>
    <p class="text-sm text-quiet">
      Call-outs, rows of a bench, pictures of a video: typed here, or pasted from a spreadsheet.
    </p>
    <div class="overflow-x-auto">
      <table class="data">
        <thead>
          <tr>
            <th v-for="c in columns" :key="c.role" class="min-w-24">
              {{ c.label
              }}<input
                v-if="c.kind !== 'text'"
                class="field mt-0.5 py-0.5 font-normal"
                :value="unitOf(c)"
                :aria-label="`${c.label}, typed in`"
                @change="
                  draft = {
                    ...draft,
                    units: { ...draft.units, [c.role]: ($event.target as HTMLInputElement).value.trim() },
                  }
                "
              />
            </th>
            <th><span class="sr-only">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, r) in rows" :key="r">
            <td v-for="(c, k) in columns" :key="c.role" class="p-0.5">
              <input
                class="field py-0.5"
                :value="row[k]"
                :aria-label="`${c.label}, row ${r + 1}`"
                :inputmode="c.kind === 'text' ? 'text' : 'decimal'"
                @input="setCell(r, k, ($event.target as HTMLInputElement).value)"
                @paste="paste($event, r, k)"
                @keydown.enter.prevent="enterDown($event, r)"
              />
            </td>
            <td class="p-0.5">
              <button
                type="button"
                class="button px-1 py-1"
                :aria-label="`Remove row ${r + 1}`"
                @click="put(rows.toSpliced(r, 1))"
              >
                <X class="size-3.5" aria-hidden="true" />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <NumberQuestion v-if="openCell" :text="openCell" />
    <p v-if="wantsZero" class="text-sm text-open">
      No row has nothing on. Did the gauges read nothing before the first?
      <button type="button" class="button ml-1 px-1.5 py-0 text-xs" @click="addZeros">Add a row of zeros first</button>
    </p>
    <ProblemNote :problem="problem" />
    <div class="flex flex-wrap items-end justify-between gap-2">
      <button type="button" class="button text-xs" @click="put([...rows, columns.map(() => '')])">
        <Plus class="size-3.5" aria-hidden="true" />Row
      </button>
      <EndFields v-model="end" v-model:mode="broke.mode" v-model:place="broke.place" label="It ended" />
      <button type="button" class="button-main" :disabled="busy || unready !== ''" :data-hint="unready" @click="take">
        Keep {{ filled.length }} {{ filled.length === 1 ? 'row' : 'rows' }}
      </button>
    </div>
    <p v-if="unready && filled.length > 0" class="text-sm text-quiet">{{ unready }}</p>
  </section>
</template>
