<script setup lang="ts">
import { ArrowDown, ArrowUp, Lock, PanelRightOpen } from '@lucide/vue'
import {
  isHypometError,
  isOpenNumber,
  readCell,
  writeCell,
  type Field,
  type HypometError,
  type Register,
  type RegisterContext,
  type Row,
} from '@hypomet/core'
import { formFields, readTexts, refusalOf, type Texts } from '~/composables/register/rowText'
import type { RegisterRow } from '~/composables/register/useRegister'

/**
 * A register as a sheet: arrows move, typing or Enter edits, Escape leaves, the last line makes a new row as soon as it
 * holds, and what is copied from a spreadsheet is pasted where one stands.
 */
const props = defineProps<{
  register: Register
  rows: RegisterRow[]
  context: RegisterContext
  filter: string
  /** What every new row begins with, and columns that need not be shown because of it. */
  base?: Row
  hide?: string[]
  canAdd?: boolean
  save: (row: RegisterRow, values: Row) => Promise<HypometError | null>
  create: (values: Row) => Promise<HypometError | null>
}>()
const emit = defineEmits<{ open: [row: RegisterRow]; paste: [text: string, from: string, onto: RegisterRow[]] }>()

const fields = computed(() => formFields(props.register).filter(f => !f.aside && !props.hide?.includes(f.key)))
const { shown, sortOf, sortBy } = useSortedRows(
  props.register,
  () => props.rows,
  () => props.context,
  () => props.filter,
)
const at = reactive({ row: 0, column: 0 })
const editing = ref<string | null>(null)
const problem = shallowRef<{ row: number; key: string; message: string } | null>(null)
const grid = useTemplateRef<HTMLTableElement>('grid')
const count = computed(() => shown.value.length + (props.canAdd ? 1 : 0))
const {
  rows: inSight,
  before,
  after,
  reach,
  measure,
} = useVirtualRows(
  () => count.value,
  () => grid.value,
)

/** The new row while it is not complete; it outlives a reload. */
const draft = ref<Texts>({})
const kept = computed(() => `hypomet-draft-${props.register.id}-${JSON.stringify(props.base ?? {})}`)
onMounted(() => {
  draft.value = JSON.parse(sessionStorage.getItem(kept.value) ?? '{}') as Texts
})
const draftRow = computed(() => readTexts(props.register, draft.value, { ...props.base }, props.context).row)

const isDraft = (row: number) => row === shown.value.length
const rowAt = (row: number): Row => (isDraft(row) ? draftRow.value : shown.value[row]!.row)
const textAt = (row: number, f: Field): string =>
  isDraft(row) ? (draft.value[f.key] ?? '') : (shown.value[row]!.texts[f.key] ?? '')
const isFixed = (row: number, f: Field): boolean =>
  !isDraft(row) && ((f.fixed ?? false) || shown.value[row]!.row.fixed === true)

// A row that was just made is brought into sight.
watch(
  () => props.rows.map(r => r.id),
  async (ids, before) => {
    const known = new Set(before)
    const made = ids.filter(id => !known.has(id))
    if (made.length !== 1) return
    await reach(shown.value.findIndex(s => s.row.id === made[0]))
    grid.value?.querySelector(`[data-row="${made[0]}"]`)?.scrollIntoView({ block: 'nearest' })
  },
)

function go(row: number, column: number): void {
  at.row = Math.max(0, Math.min(count.value - 1, row))
  at.column = Math.max(0, Math.min(fields.value.length - 1, column))
  void reach(at.row).then(() => grid.value?.querySelector<HTMLElement>(`[data-cell="${at.row}.${at.column}"]`)?.focus())
}
function edit(first?: string): void {
  const f = fields.value[at.column]!
  if (isFixed(at.row, f)) return
  problem.value = null
  editing.value = first ?? textAt(at.row, f)
  void nextTick(() => {
    const input = grid.value?.querySelector<HTMLInputElement>('[data-editor] input, [data-editor] select')
    input?.focus()
    if (first === undefined && input instanceof HTMLInputElement) input.select()
  })
}

/** Takes what was typed. @returns whether it holds */
async function commit(): Promise<boolean> {
  const typed = editing.value
  if (typed === null) return true
  const [row, f] = [at.row, fields.value[at.column]!]
  editing.value = null
  if (typed === textAt(row, f)) return true
  return isDraft(row) ? commitDraft(f, typed) : commitCell(row, f, typed)
}
async function commitCell(row: number, f: Field, typed: string): Promise<boolean> {
  const { row: stored } = shown.value[row]!
  try {
    const refused = await props.save(stored, { [f.key]: readCell(f, typed, stored, props.context) })
    if (!refused) return true
    return refuse(
      row,
      refused.place.path === f.key || !refused.place.path
        ? f.key
        : (fields.value.find(x => x.key === refused.place.path)?.key ?? f.key),
      refused.message,
      typed,
    )
  } catch (e) {
    if (!isHypometError(e)) throw e
    return refuse(row, f.key, e.message, typed)
  }
}
/** What was typed stays in the cell, with what is wrong with it. */
function refuse(row: number, key: string, message: string, typed?: string): false {
  problem.value = { row, key, message }
  if (typed !== undefined) editing.value = typed
  return false
}
async function commitDraft(f: Field, typed: string): Promise<boolean> {
  const next: Texts = { ...draft.value, [f.key]: typed }
  const first = readTexts(props.register, next, { ...props.base }, props.context)
  if (first.problems[f.key]) return refuse(at.row, f.key, first.problems[f.key]!, typed)
  for (const [key, value] of Object.entries(props.register.propose?.(first.row, props.context) ?? {}))
    if (!next[key])
      next[key] = writeCell(
        props.register.fields.find(x => x.key === key)!,
        value,
        first.row,
        props.context,
      )
  draft.value = next
  sessionStorage.setItem(kept.value, JSON.stringify(next))
  const { row, problems } = readTexts(props.register, next, { ...props.base }, props.context)
  const missing = props.register.fields.some(x => x.required && (row[x.key] === null || row[x.key] === undefined))
  if (missing || Object.keys(problems).length > 0) return true
  const refused = refusalOf(props.register, row, props.context) ?? (await props.create(row))
  if (refused)
    return refuse(at.row, fields.value.find(x => x.key === refused.place.path)?.key ?? f.key, refused.message)
  draft.value = {}
  sessionStorage.removeItem(kept.value)
  return true
}
const MOVES: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
}
async function onKey(e: KeyboardEvent): Promise<void> {
  if (editing.value !== null) return onEditorKey(e)
  const move = MOVES[e.key]
  if (move) {
    e.preventDefault()
    return go(at.row + move[0], at.column + move[1])
  }
  if (e.key === 'Home' || e.key === 'End') {
    e.preventDefault()
    return go(at.row, e.key === 'Home' ? 0 : fields.value.length - 1)
  }
  if (e.key === 'Enter' || e.key === 'F2') {
    e.preventDefault()
    return edit()
  }
  if ((e.ctrlKey || e.metaKey) && e.key === 'c')
    return void navigator.clipboard?.writeText(textAt(at.row, fields.value[at.column]!))
  if (e.key === 'Delete' || e.key === 'Backspace') {
    e.preventDefault()
    edit('')
    return void (await commit())
  }
  if (e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey) {
    e.preventDefault()
    e.stopPropagation()
    const f = fields.value[at.column]!
    edit(f.type === 'choice' || f.type === 'ref' ? undefined : e.key)
  }
}
async function onEditorKey(e: KeyboardEvent): Promise<void> {
  e.stopPropagation()
  if (e.key === 'Escape') {
    editing.value = null
    problem.value = null
    return go(at.row, at.column)
  }
  if (e.key !== 'Enter' && e.key !== 'Tab') return
  e.preventDefault()
  const [row, column] = [at.row, at.column]
  if (await commit())
    go(...(e.key === 'Enter' ? ([row + 1, column] as const) : ([row, column + (e.shiftKey ? -1 : 1)] as const)))
}
/** A click elsewhere takes what was typed, too. */
async function onBlur(e: FocusEvent): Promise<void> {
  if (editing.value !== null && !grid.value?.contains(e.relatedTarget as Node | null)) await commit()
}
async function onCell(row: number, column: number): Promise<void> {
  if (editing.value !== null && at.row === row && at.column === column) return
  if (!(await commit())) return
  const again =
    at.row === row &&
    at.column === column &&
    document.activeElement === grid.value?.querySelector(`[data-cell="${row}.${column}"]`)
  go(row, column)
  if (again) edit()
}
function onPaste(e: ClipboardEvent): void {
  if (editing.value !== null) return
  const text = e.clipboardData?.getData('text/plain') ?? ''
  e.preventDefault()
  if (!/[\t\n]/.test(text.trim())) {
    edit(text.trim())
    return
  }
  emit(
    'paste',
    text,
    fields.value[at.column]!.key,
    shown.value.slice(at.row).map(s => s.row),
  )
}
const isNumber = (f: Field) => f.type === 'quantity' || f.type === 'number'
const show = (row: number, f: Field) => (f.type === 'date' && textAt(row, f) ? day(textAt(row, f)) : textAt(row, f))
</script>

<template>
  <div class="overflow-x-auto" @paste="onPaste">
    <table
      ref="grid"
      role="grid"
      class="data"
      :aria-label="register.many"
      :aria-rowcount="count + 1"
      @keydown="onKey"
      @focusout="onBlur"
    >
      <thead>
        <tr>
          <th
            v-for="f in fields"
            :key="f.key"
            scope="col"
            :aria-sort="sortOf(f.key) === 'asc' ? 'ascending' : sortOf(f.key) === 'desc' ? 'descending' : undefined"
            :class="isNumber(f) ? 'number' : ''"
          >
            <button
              type="button"
              tabindex="-1"
              class="inline-flex items-center gap-0.5 font-semibold"
              :data-hint="f.hint ? `${f.hint}. Click to sort.` : 'Click to sort'"
              @click="sortBy(f.key)"
            >
              {{ f.title }}<ArrowUp v-if="sortOf(f.key) === 'asc'" class="size-3" aria-hidden="true" /><ArrowDown
                v-else-if="sortOf(f.key) === 'desc'"
                class="size-3"
                aria-hidden="true"
              />
            </button>
          </th>
          <th><span class="sr-only">Open</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="before > 0" aria-hidden="true">
          <td :style="{ height: `${before}px` }" />
        </tr>
        <tr
          v-for="r in inSight"
          :key="isDraft(r) ? 'new' : shown[r]!.row.id"
          :ref="measure"
          :data-index="r"
          :aria-rowindex="r + 2"
          :data-row="isDraft(r) ? 'new' : shown[r]!.row.id"
          :class="isDraft(r) ? 'bg-ground' : ''"
        >
          <td
            v-for="(f, c) in fields"
            :key="f.key"
            :data-cell="`${r}.${c}`"
            :data-key="f.key"
            :tabindex="at.row === r && at.column === c && editing === null ? 0 : -1"
            :aria-readonly="isFixed(r, f) || undefined"
            :class="[
              'relative max-w-64 cursor-default align-top!',
              isNumber(f) ? 'number whitespace-nowrap' : '',
              f.type === 'date' ? 'whitespace-nowrap' : '',
              f.key === register.name ? 'font-medium' : '',
              problem?.row === r && problem.key === f.key ? 'outline outline-1 outline-fail' : '',
            ]"
            @click="onCell(r, c)"
          >
            <span v-if="editing !== null && at.row === r && at.column === c" data-editor class="block min-w-24"
              ><FieldInput
                v-model="editing"
                :field="f"
                :row="rowAt(r)"
                :context="context"
                :label="`${f.title}, row ${r + 1}`"
                :invalid="problem?.row === r && problem.key === f.key"
                tight
            /></span>
            <span
              v-else
              :class="['line-clamp-3 min-h-4 break-words', isDraft(r) && !textAt(r, f) ? 'text-quiet' : '']"
              >{{ show(r, f) || (isDraft(r) ? (c === 0 ? `New ${register.one.toLowerCase()} …` : '') : '') }}</span
            >
            <span
              v-if="problem?.row === r && problem.key === f.key"
              role="alert"
              :class="[
                'absolute left-0 top-full z-10 w-max max-w-72 rounded border',
                'border-fail bg-panel px-2 py-1 text-left text-xs font-normal text-fail shadow',
              ]"
              >{{ problem.message
              }}<NumberQuestion
                v-if="isNumber(f) && editing !== null && isOpenNumber(editing)"
                class="text-ink"
                :text="editing"
                @answered="commit()"
            /></span>
          </td>
          <td class="w-8 align-top!">
            <span class="flex items-center justify-end gap-1 whitespace-nowrap">
              <slot v-if="!isDraft(r)" name="mark" :row="shown[r]!.row" />
              <Lock
                v-if="!isDraft(r) && shown[r]!.row.fixed"
                class="inline size-3.5 text-quiet"
                aria-label="stands as it is"
              />
              <button
                v-if="!isDraft(r)"
                type="button"
                class="button px-1 py-0.5"
                :aria-label="`Open ${textAt(
                  r,
                  register.fields.find(x => x.key === register.name)!,
                )}`"
                @click="emit('open', shown[r]!.row)"
              >
                <PanelRightOpen class="size-3.5" aria-hidden="true" />
              </button>
            </span>
          </td>
        </tr>
        <tr v-if="after > 0" aria-hidden="true">
          <td :style="{ height: `${after}px` }" />
        </tr>
      </tbody>
    </table>
    <p v-if="shown.length === 0 && rows.length > 0" class="p-2 text-sm text-quiet">No match.</p>
  </div>
</template>
