<script setup lang="ts">
import { ClipboardPaste, Download, FileUp, Plus, Trash2 } from '@lucide/vue'
import type { Row, UnitPreference } from '@hypomet/core'
import type { RegisterRow } from '~/composables/register/useRegister'

/**
 * A register as a page of its own: the sheet, a row opened beside it with its files and history, exchange with
 * spreadsheets.
 */
const props = withDefaults(
  defineProps<{
    id: string
    campaignId?: number | null
    prefer?: UnitPreference
    title?: string
    about: string
    base?: Row
    hide?: string[]
    canAdd?: boolean
    only?: (row: RegisterRow) => boolean
    opens?: (row: RegisterRow) => string
  }>(),
  { canAdd: true },
)
const book = await useRegister(props.id, props.campaignId ?? null, () => props.prefer ?? {})
const { register, context } = book
const rows = computed(() => (props.only ? book.rows.value.filter(props.only) : book.rows.value))
const filter = ref('')
const openId = ref<number | null>(null)
const making = ref(false)
const opened = computed(() => book.rows.value.find(r => r.id === openId.value) ?? null)
const pasted = ref<{ text: string; from?: string; onto: RegisterRow[] } | null>(null)
const { problem, run } = useAction()

const route = useRoute()
onMounted(() => {
  const wanted = Number(route.query['row'])
  if (wanted) openId.value = wanted
})
function open(row: RegisterRow): void {
  if (props.opens) void navigateTo(props.opens(row))
  else openId.value = row.id
}
async function pasteFromClipboard(): Promise<void> {
  // Browsers that keep the clipboard to themselves still take Ctrl V in the table.
  const text = await navigator.clipboard?.readText().catch(() => '')
  pasted.value = { text: text ?? '', onto: [] }
}
async function takeFile(file: File | undefined): Promise<void> {
  if (file) pasted.value = { text: await file.text(), onto: [] }
}
const remove = (row: RegisterRow) =>
  run(async () => {
    const refused = await book.remove(row)
    if (refused) throw refused
    openId.value = null
  })
const saved = (row: RegisterRow) => (values: Row, version: number | null) =>
  book.change(row, values, version ?? row.version)
const writePasted = (batch: { creates: Row[]; changes: { id: number; version: number; values: Row }[] }) =>
  book.write(batch, `${batch.creates.length + batch.changes.length} ${register.many.toLowerCase()} from a sheet`)
</script>

<template>
  <section class="space-y-2">
    <header class="flex items-end justify-between gap-4">
      <div>
        <h1>{{ title ?? register.many }}</h1>
        <p class="max-w-xl text-sm text-quiet">{{ about }}</p>
      </div>
      <div class="flex shrink-0 items-center gap-1.5">
        <label
          ><span class="sr-only">Words to look for</span
          ><input v-model="filter" type="search" class="field w-36" placeholder="Look for words"
        /></label>
        <slot name="tools" />
        <button
          v-if="canAdd"
          type="button"
          class="button text-sm"
          data-hint="Rows copied from a spreadsheet"
          @click="pasteFromClipboard"
        >
          <ClipboardPaste class="size-3.5" aria-hidden="true" />Paste
        </button>
        <FilePicker
          class="button text-sm"
          data-hint="A file in CSV or JSON"
          accept=".csv,.tsv,.txt,.json"
          :label="`Import ${register.many.toLowerCase()}`"
          @files="takeFile($event[0])"
          ><FileUp class="size-3.5" aria-hidden="true" />Import</FilePicker
        >
        <a class="button text-sm" :href="book.exportHref('csv')" download
          ><Download class="size-3.5" aria-hidden="true" />CSV</a
        ><a class="button text-sm" :href="book.exportHref('json')" download>JSON</a>
        <button v-if="canAdd" type="button" class="button-main text-sm" @click="making = true">
          <Plus class="size-4" aria-hidden="true" />New {{ register.one.toLowerCase() }}
        </button>
      </div>
    </header>
    <EmptyState
      v-if="rows.length === 0 && canAdd"
      :title="`No ${register.many.toLowerCase()} yet`"
      :text="`${about} Make the first one here, type it into the sheet below, or paste rows from a spreadsheet.`"
      :action="`Add the first ${register.one.toLowerCase()}`"
      @act="making = true"
    />
    <div class="panel p-1.5!">
      <RegisterTable
        :register="register"
        :rows="rows"
        :context="context"
        :filter="filter"
        v-bind="base ? { base } : {}"
        :hide="hide ?? []"
        :can-add="canAdd"
        :save="(row, values) => book.change(row, values)"
        :create="book.create"
        @open="open"
        @paste="(text, from, onto) => (pasted = { text, from, onto })"
      >
        <template #mark="{ row }"><slot name="mark" :row="row" /></template>
      </RegisterTable>
      <p class="px-2 pt-1 text-2xs text-quiet">
        <span class="key">↑↓←→</span> move · type or <span class="key">Enter</span> edit ·
        <span class="key">Esc</span> leave · <span class="key">Ctrl V</span> paste rows ·
        <span class="key">Ctrl Z</span> undo
      </p>
    </div>
    <slot name="below" :rows="rows" :context="context" />
    <BaseDialog
      :open="making"
      wide
      :title="`New ${register.one.toLowerCase()}`"
      :description="about"
      @close="making = false"
    >
      <RegisterForm
        v-if="making"
        :register="register"
        :row="null"
        v-bind="base ? { base } : {}"
        :hide="hide ?? []"
        :context="context"
        :action="`Add ${register.one.toLowerCase()}`"
        :save="values => book.create(values)"
        @saved="making = false"
        @cancel="making = false"
      >
        <template #fields="given"><slot name="fields" v-bind="given" :context="context" /></template>
      </RegisterForm>
    </BaseDialog>
    <BaseDialog :open="opened !== null" wide :title="opened ? book.nameOf(opened) : ''" @close="openId = null">
      <div v-if="opened" class="space-y-4">
        <p v-if="opened.fixed" class="text-sm text-open">This row stands as it is.</p>
        <slot name="row" :row="opened" :context="context" />
        <RegisterForm
          v-if="!opened.fixed"
          :key="opened.id"
          :register="register"
          :row="opened"
          :context="context"
          action="Save"
          :save="saved(opened)"
          @saved="openId = null"
          @cancel="openId = null"
        >
          <template #buttons
            ><button v-if="canAdd" type="button" class="button mr-auto text-fail" @click="remove(opened)">
              <Trash2 class="size-3.5" aria-hidden="true" />Remove
            </button></template
          >
        </RegisterForm>
        <ProblemNote :problem="problem" />
        <AttachmentStrip :id="opened.id" :entity="register.id" />
        <HistoryList :id="opened.id" :register="register" :version="opened.version" :context="context" />
      </div>
    </BaseDialog>
    <PastedRows
      :register="register"
      :context="context"
      :text="pasted?.text ?? null"
      :from="pasted?.from"
      :onto="pasted?.onto ?? []"
      :rows="book.rows.value"
      v-bind="base ? { base } : {}"
      :write="writePasted"
      @close="pasted = null"
    />
  </section>
</template>
