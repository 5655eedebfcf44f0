<script setup lang="ts">
import { findUnit } from '@hypomet/core'
import type { Mendable, TakenAnew } from '~/types/api'

/** What a channel was read as, said anew after the import: its samples stay, how they are taken changes. */
const props = defineProps<{
  /** Null while none is mended. */
  channel: Mendable | null
  roles: readonly { role: string; label: string }[]
}>()
const emit = defineEmits<{ close: []; mended: [what: TakenAnew] }>()
const MEANT =
  'Its samples stay as they were read. What rests on it is worked out anew and takes the place of what was kept.'
const records = useRecordStore()
const { busy, problem, run } = useAction()
const form = reactive({ role: '', unit: '', scale: '1', offset: '0' })
watch(
  () => props.channel,
  c => {
    problem.value = null
    if (c)
      Object.assign(form, {
        role: c.used ? c.role : '',
        unit: c.said.unit,
        scale: String(c.said.scale),
        offset: String(c.said.offset),
      })
  },
  { immediate: true },
)
const [scale, offset] = [computed(() => typedNumber(form.scale)), computed(() => typedNumber(form.offset))]
const isUnit = computed(() => form.unit === '' || findUnit(form.unit, 'gravity') !== null)
const isWhole = computed(() => isUnit.value && Number.isFinite(scale.value) && Number.isFinite(offset.value))
/** What differs from what is said already. */
const change = computed(() => {
  const c = props.channel
  if (!c) return {}
  return {
    ...(form.role === (c.used ? c.role : '') ? {} : { role: form.role }),
    ...(form.unit === c.said.unit ? {} : { unit: form.unit }),
    ...(scale.value === c.said.scale ? {} : { scale: scale.value }),
    ...(offset.value === c.said.offset ? {} : { offset: offset.value }),
  }
})
const turn = () => (form.scale = String(-scale.value))
const roleNow = computed(() => props.roles.find(r => r.role === form.role))
const mend = () =>
  run(async () => {
    const what = await records.mend(props.channel!.id, change.value)
    emit('mended', what)
    emit('close')
  })
</script>

<template>
  <BaseDialog
    :open="channel !== null"
    :title="`What is “${channel?.name || channel?.role}”?`"
    :description="MEANT"
    @close="emit('close')"
  >
    <form v-if="channel" class="space-y-3" @submit.prevent="mend">
      <label class="block"
        ><span class="label">Read as</span
        ><select v-model="form.role" class="field">
          <option value="">nothing: kept by its own name</option>
          <option v-if="channel.used && !roles.some(r => r.role === channel!.role)" :value="channel.role">
            {{ channel.role }}
          </option>
          <option v-for="r in roles" :key="r.role" :value="r.role">{{ r.label }}</option>
        </select></label
      >
      <p v-if="channel.expression" class="text-sm text-quiet">
        Derived: <code>{{ channel.expression }}</code>. Its unit follows from that.
      </p>
      <div v-else class="flex flex-wrap items-end gap-3">
        <label
          ><span class="label">Unit</span
          ><input
            v-model.trim="form.unit"
            class="field w-28"
            :placeholder="channel.unit || 'none'"
            :aria-invalid="!isUnit"
        /></label>
        <label
          ><span class="label">Times</span><input v-model="form.scale" class="field w-24" inputmode="decimal"
        /></label>
        <button type="button" class="button" :disabled="!Number.isFinite(scale)" @click="turn">Turn its sign</button>
        <label
          ><span class="label">and then plus</span><input v-model="form.offset" class="field w-24" inputmode="decimal"
        /></label>
      </div>
      <p v-if="!isUnit" class="problem">“{{ form.unit }}” is not a unit Hypomet knows.</p>
      <p v-if="roleNow && !(channel.used && channel.role === form.role)" class="text-sm text-quiet">
        Whichever column is {{ roleNow.label.toLowerCase() }} now gives that up.
      </p>
      <ProblemNote :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Leave it</button
        ><button class="button-main" :disabled="busy || !isWhole || Object.keys(change).length === 0">
          {{ busy ? 'Working it out …' : 'Mend' }}
        </button>
      </div>
    </form>
  </BaseDialog>
</template>
