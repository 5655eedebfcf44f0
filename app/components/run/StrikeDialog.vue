<script setup lang="ts">
import { parseSettings, quantity, type QuantityInput } from '@hypomet/core'

/** A reading by hand that was written down wrong, and what is right: both stay in the record, the right one counts. */
const props = defineProps<{
  /** Of the call-out; null while nothing is struck out. */
  said: { t: number; value: number | null; reading: number | null; role?: string | null } | null
}>()
const emit = defineEmits<{
  close: []
  strike: [what: { at: number; role: string; value: number; note: string }]
}>()
const { page, units } = useTest()
const form = reactive({ role: '', right: null as QuantityInput | null, note: '' })
const isTried = ref(false)
const roles = computed(() => props.said?.role?.split(' ') ?? [])
watch(
  () => props.said,
  () => {
    isTried.value = false
    Object.assign(form, { role: roles.value.at(-1) ?? '', right: null, note: '' })
  },
)
const channelOf = (role: string) => page.value.view?.channels.find(c => c.role === role)
const chosen = computed(() => channelOf(form.role))
/** What was written down, where the event itself says it. */
const was = computed(() => {
  const { view } = page.value
  if (!view || !props.said) return null
  if (form.role === view.commanded.role) return props.said.value
  return form.role === view.read.role ? props.said.reading : null
})
function strike(): void {
  isTried.value = true
  if (!props.said || !chosen.value || form.right === null) return
  const value = parseSettings(quantity(chosen.value.kind), form.right)
  emit('strike', { at: props.said.t, role: form.role, value, note: form.note.trim() })
}
</script>

<template>
  <BaseDialog
    :open="said !== null"
    title="Strike out a reading"
    description="What was written down stays and is struck out; what is right stands beside it, and counts."
    @close="emit('close')"
  >
    <form class="space-y-3" @submit.prevent="strike">
      <label v-if="roles.length > 1" class="block"
        ><span class="label">Written down wrong</span
        ><select v-model="form.role" class="field">
          <option v-for="r in roles" :key="r" :value="r">{{ channelOf(r)?.label ?? r }}</option>
        </select></label
      >
      <p v-if="chosen && was !== null">
        {{ chosen.label }}: <s data-was>{{ units.show(was, chosen.kind, { digits: 4 }) }}</s>
      </p>
      <QuantityField
        v-if="chosen"
        v-model="form.right"
        :kind="chosen.kind"
        :prefer="units.prefer.value"
        :label="`${chosen.label}, right`"
        :problem="isTried && form.right === null ? 'Type what is right, or leave it.' : undefined"
      />
      <label class="block"
        ><span class="label">Why, if there is more to say</span><input v-model="form.note" class="field"
      /></label>
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Leave it</button
        ><button class="button-main">Strike out</button>
      </div>
    </form>
  </BaseDialog>
</template>
