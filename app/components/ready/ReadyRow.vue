<script setup lang="ts">
import { Check, Circle, CircleX, ShieldAlert } from '@lucide/vue'
import type { ReadyTick } from '~/composables/ready/useReady'

/** One item of the checklist: ticked, read and judged, photographed, signed, or overridden by name with a reason. */
const props = defineProps<{
  item: ReadyTick
  busy: boolean
  fixed: boolean
  person: string
  testId: number
  selected?: boolean
  bare?: boolean
}>()
const emit = defineEmits<{
  mark: [state: 'open' | 'done' | 'overridden', more: { reason?: string; reading?: string }]
  pick: []
  try: [index: number]
  changed: []
}>()
const reading = ref('')
const reason = ref('')
const overriding = ref(false)
watch(
  () => props.item.key,
  () => {
    reading.value = ''
    overriding.value = false
  },
)
watch(
  () => props.item.at,
  () => {
    reading.value = ''
    overriding.value = false
  },
)
const field = useTemplateRef<HTMLInputElement>('field')
const canTick = computed(() => props.item.automatic === undefined)
defineExpose({
  focusReading: () => field.value?.focus(),
  override: () => {
    overriding.value = true
  },
})
</script>

<template>
  <div
    :class="[
      'grid grid-cols-[1.6rem_1fr_auto] items-start gap-2 rounded px-1 py-1.5',
      selected ? 'bg-accent-soft' : '',
    ]"
    :data-item="item.key"
    @click="emit('pick')"
  >
    <Check v-if="item.state === 'done'" class="mt-0.5 size-5 text-pass" aria-label="done" />
    <ShieldAlert v-else-if="item.state === 'overridden'" class="mt-0.5 size-5 text-open" aria-label="overridden" />
    <CircleX v-else-if="item.state === 'failed'" class="mt-0.5 size-5 text-fail" aria-label="not good" />
    <Circle v-else class="mt-0.5 size-5 text-fail" aria-label="open" />
    <div class="min-w-0">
      <p class="font-medium">{{ item.text }}</p>
      <p v-if="item.why" class="text-xs text-quiet">{{ item.why }}</p>
      <p v-if="item.read" :class="['text-sm font-semibold', item.read.good ? 'text-pass' : 'text-fail']">
        {{ item.read.words }}{{ item.read.good ? '' : ': not good' }}
        <span class="text-xs font-normal text-quiet">{{ item.by }}, {{ item.at ? moment(item.at) : '' }}</span>
      </p>
      <p v-if="item.state === 'overridden'" class="text-xs text-open">Overridden by {{ item.by }}: {{ item.reason }}</p>
      <p v-else-if="item.state === 'done' && item.by && !item.read" class="text-xs text-quiet">
        {{ item.sign ? 'Signed by ' : '' }}{{ item.by }}, {{ item.at ? moment(item.at) : ''
        }}{{ item.reason ? `: ${item.reason}` : '' }}
      </p>
      <AttachmentStrip
        v-if="item.photo && !bare"
        :id="testId"
        entity="test"
        :tag="item.photo"
        title="Pictures"
        class="mt-1"
        @changed="emit('changed')"
      />
      <form v-if="overriding" class="mt-1 flex gap-2" @submit.prevent="emit('mark', 'overridden', { reason })">
        <label class="flex-1"
          ><span class="sr-only">Reason for overriding</span
          ><input
            v-model="reason"
            v-focus
            class="field"
            placeholder="Why it may go ahead all the same"
            @keydown.esc="overriding = false"
        /></label>
        <button class="button-main" :disabled="busy || reason.trim() === '' || !person">
          Override{{ person ? ` as ${person}` : '' }}
        </button>
        <p v-if="!person" class="self-center text-xs text-fail">Say who you are, top right.</p>
      </form>
    </div>
    <div v-if="!fixed" class="flex flex-wrap justify-end gap-1">
      <form v-if="item.reading" class="flex items-center gap-1" @submit.prevent="emit('mark', 'done', { reading })">
        <label
          ><span class="sr-only">Reading: {{ item.text }}</span
          ><input
            ref="field"
            v-model="reading"
            class="field w-28"
            autocomplete="off"
            :placeholder="item.read ? 'read again' : 'reading'"
        /></label>
        <button
          class="button text-xs"
          :disabled="busy || reading.trim() === ''"
          :aria-label="`Enter reading: ${item.text}`"
        >
          Judge
        </button>
        <span class="w-full text-right text-2xs text-quiet">{{ item.reading.wanted }}</span>
      </form>
      <button
        v-else-if="item.tries !== undefined"
        type="button"
        class="button text-xs"
        :disabled="busy"
        :aria-label="`Try: ${item.text}`"
        title="It does now what it does on an abort"
        @click="emit('try', item.tries)"
      >
        Try it now
      </button>
      <button
        v-else-if="canTick"
        type="button"
        class="button text-xs"
        :disabled="busy"
        :aria-label="`${item.state === 'done' ? 'Untick' : item.sign ? 'Sign' : 'Tick off'}: ${item.text}`"
        @click="emit('mark', item.state === 'done' ? 'open' : 'done', {})"
      >
        {{
          item.state === 'done'
            ? item.sign
              ? 'Take back'
              : 'Untick'
            : item.sign
              ? `Sign${person ? ` as ${person}` : ''}`
              : 'Done'
        }}
      </button>
      <button
        v-if="(item.state === 'open' || item.state === 'failed') && item.canOverride !== false && !item.sign"
        type="button"
        class="button text-xs"
        :aria-label="`Override: ${item.text}`"
        @click="overriding = true"
      >
        Override
      </button>
    </div>
  </div>
</template>
