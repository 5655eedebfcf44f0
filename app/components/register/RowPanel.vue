<script setup lang="ts">
import type { Row } from '@hypomet/core'
import type { RegisterRow, useRegister } from '~/composables/register/useRegister'

/** A row that has a page of its own: its form, saved in place, and taking it away. */
const props = defineProps<{ book: Awaited<ReturnType<typeof useRegister>>; row: RegisterRow; back: string }>()
const saved = ref(false)
const { problem, run } = useAction()
function save(values: Row, version: number | null) {
  saved.value = false
  return props.book.change(props.row, values, version ?? undefined)
}
const remove = () =>
  run(async () => {
    const refused = await props.book.remove(props.row)
    if (refused) throw refused
    await navigateTo(props.back)
  })
</script>

<template>
  <section class="panel">
    <h1 class="mb-2">{{ book.nameOf(row) }}</h1>
    <slot />
    <RegisterForm
      :register="book.register"
      :row="row"
      :context="book.context.value"
      action="Save"
      :save="save"
      @saved="saved = true"
      @cancel="navigateTo(back)"
    >
      <template #buttons
        ><button type="button" class="button mr-auto text-fail" @click="remove">Remove</button
        ><span v-if="saved" role="status" class="self-center text-sm text-quiet">Saved</span></template
      >
    </RegisterForm>
    <ProblemNote class="mt-2" :problem="problem" />
  </section>
</template>
