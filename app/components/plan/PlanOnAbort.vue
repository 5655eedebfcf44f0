<script setup lang="ts">
import { Plus, X } from '@lucide/vue'

/** What an abort sets going outside of Hypomet: lines, relays, and what is said aloud. */
interface Output {
  kind: 'line' | 'coil' | 'voice'
  host?: string
  port?: number | string | undefined
  text?: string
  unit?: number | string | undefined
  coil?: number | string | undefined
  to?: 'on' | 'off'
  sentence?: string
}
const outputs = defineModel<Output[]>({ required: true })
const props = defineProps<{ fixed: boolean; problemAt: (path: string) => string | undefined }>()
const KINDS: Record<Output['kind'], string> = {
  line: 'Line to a TCP address',
  coil: 'Relay by Modbus coil',
  voice: 'Siren and voice',
}
const FIRST: Record<Output['kind'], Output> = {
  line: { kind: 'line', host: '', text: '' },
  coil: { kind: 'coil', host: '', unit: 1, coil: 0, to: 'on' },
  voice: { kind: 'voice', sentence: 'Abort. Unload now.' },
}
const change = (i: number, values: Partial<Output>) => {
  outputs.value = outputs.value.with(i, { ...outputs.value[i]!, ...values })
}
const isWrong = (i: number, key: string) => (props.problemAt(`onAbort.${i}.${key}`) ? true : undefined)
const text = (e: Event) => (e.target as HTMLInputElement).value
/** What is no number stays as it was typed, and is complained of; what is empty is asked for. */
const whole = (e: Event) => {
  const typed = text(e).trim()
  return typed === '' || Number.isNaN(Number(typed)) ? typed || undefined : Number(typed)
}
</script>

<template>
  <section class="mt-4" aria-label="On abort">
    <h3 class="label">On abort</h3>
    <p class="mb-2 text-xs text-quiet">
      {{
        outputs.length === 0
          ? 'Nothing is set up: an abort is written down and warned of, people unload.'
          : 'Set going the moment an abort is called, and tried in Ready.'
      }}
      Hypomet is no safety system: the rig’s own stop comes first.
    </p>
    <fieldset :disabled="fixed" class="space-y-2">
      <div
        v-for="(o, i) in outputs"
        :key="i"
        class="flex flex-wrap items-end gap-2 rounded-lg border border-line p-2"
        :aria-label="`Output ${i + 1}: ${KINDS[o.kind]}`"
        role="group"
      >
        <strong class="w-40 self-center text-sm">{{ KINDS[o.kind] }}</strong>
        <template v-if="o.kind !== 'voice'">
          <label class="w-44"
            ><span class="label">Host</span
            ><input
              class="field"
              :value="o.host"
              placeholder="192.168.0.20"
              :aria-invalid="isWrong(i, 'host')"
              @change="change(i, { host: text($event) })"
          /></label>
          <label class="w-24"
            ><span class="label">Port</span
            ><input
              class="field"
              inputmode="numeric"
              :value="o.port"
              :placeholder="o.kind === 'coil' ? '502' : ''"
              :aria-invalid="isWrong(i, 'port')"
              @change="change(i, { port: whole($event) })"
          /></label>
        </template>
        <label v-if="o.kind === 'line'" class="min-w-40 flex-1"
          ><span class="label">Line to send</span
          ><input
            class="field"
            :value="o.text"
            :aria-invalid="isWrong(i, 'text')"
            @change="change(i, { text: text($event) })"
        /></label>
        <template v-else-if="o.kind === 'coil'">
          <label class="w-20"
            ><span class="label">Unit</span
            ><input
              class="field"
              inputmode="numeric"
              :value="o.unit"
              :aria-invalid="isWrong(i, 'unit')"
              @change="change(i, { unit: whole($event) })"
          /></label>
          <label class="w-24"
            ><span class="label">Coil</span
            ><input
              class="field"
              inputmode="numeric"
              :value="o.coil"
              :aria-invalid="isWrong(i, 'coil')"
              @change="change(i, { coil: whole($event) })"
          /></label>
          <label class="w-24"
            ><span class="label">On abort</span
            ><select
              class="field"
              :value="o.to"
              @change="change(i, { to: ($event.target as HTMLSelectElement).value as 'on' | 'off' })"
            >
              <option value="on">on</option>
              <option value="off">off</option>
            </select></label
          >
        </template>
        <label v-else class="min-w-40 flex-1"
          ><span class="label">Says</span
          ><input
            class="field"
            :value="o.sentence"
            :aria-invalid="isWrong(i, 'sentence')"
            @change="change(i, { sentence: text($event) })"
        /></label>
        <button
          type="button"
          class="button px-1"
          :aria-label="`Remove output ${i + 1}`"
          @click="outputs = outputs.toSpliced(i, 1)"
        >
          <X class="size-3.5" aria-hidden="true" />
        </button>
        <p
          v-for="key in ['host', 'port', 'text', 'unit', 'coil', 'sentence'].filter(k =>
            problemAt(`onAbort.${i}.${k}`),
          )"
          :key="key"
          class="w-full text-xs text-fail"
        >
          {{ problemAt(`onAbort.${i}.${key}`) }}
        </p>
      </div>
      <div class="flex flex-wrap gap-2">
        <button
          v-for="(title, kind) in KINDS"
          :key="kind"
          type="button"
          class="button text-xs"
          @click="outputs = [...outputs, FIRST[kind]]"
        >
          <Plus class="size-3.5" aria-hidden="true" />{{ title }}
        </button>
      </div>
    </fieldset>
  </section>
</template>
