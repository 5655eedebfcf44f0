<script setup lang="ts">
import { optionsOf, suggestionsOf, type Field, type RegisterContext, type Row } from '@hypomet/core'

/** The text of one field of a register, typed or chosen; whoever holds it reads it. */
const props = defineProps<{
  field: Field
  row: Row
  context: RegisterContext
  id?: string
  label?: string
  invalid?: boolean
  describedBy?: string | undefined
  disabled?: boolean
  tight?: boolean
}>()
const text = defineModel<string>({ required: true })
const own = useId()
const listId = computed(() => `${own}list`)
const options = computed(() => {
  const { field: f } = props
  if (f.type === 'choice')
    return optionsOf(f, props.row, props.context)
      .filter(o => o.value !== '')
      .map(o => o.label)
  return f.type === 'ref' ? (props.context.refs[f.to] ?? []).map(o => o.label) : null
})
/** What choosing nothing means. */
const nothing = computed(
  () =>
    (props.field.type === 'choice'
      ? optionsOf(props.field, props.row, props.context).find(o => o.value === '')?.label
      : undefined) ?? '–',
)
const suggestions = computed(() => suggestionsOf(props.field, props.row, props.context))
const placeholder = computed(() =>
  props.tight ? '' : props.field.type === 'date' ? '2026-11-24' : props.field.type === 'words' ? 'one; two' : '',
)
const el = useTemplateRef<HTMLElement>('el')
defineExpose({ focus: () => el.value?.focus() })
const common = computed(() => ({
  id: props.id,
  'aria-label': props.label,
  'aria-invalid': props.invalid || undefined,
  'aria-describedby': props.describedBy,
  disabled: props.disabled,
  class: props.tight ? 'w-full rounded-sm border border-accent bg-panel px-1 py-0.5 text-ink outline-none' : 'field',
}))
</script>

<template>
  <select v-if="options" v-bind="common" ref="el" v-model="text">
    <option value="">{{ nothing }}</option>
    <option v-for="o in options" :key="o" :value="o">{{ o }}</option>
  </select>
  <textarea v-else-if="field.type === 'long' && !tight" v-bind="common" ref="el" v-model="text" rows="3" />
  <template v-else>
    <input
      v-bind="common"
      ref="el"
      v-model="text"
      type="text"
      autocomplete="off"
      spellcheck="false"
      :list="suggestions.length > 0 ? listId : undefined"
      :placeholder="placeholder"
    />
    <datalist v-if="suggestions.length > 0" :id="listId">
      <option v-for="s in suggestions" :key="s" :value="s" />
    </datalist>
  </template>
</template>
