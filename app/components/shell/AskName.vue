<script setup lang="ts">
/** Who is at the keyboard: asked before the first change, for each bears a name. */
const { isAsked, answer } = useAskedName()
const person = usePerson()
const session = useSessionStore()
const name = ref('')
const names = ref<string[]>([])
watch(isAsked, async now => {
  if (!now) return
  name.value = ''
  names.value = await session.people()
})
function go(): void {
  person.value = name.value
  answer(name.value)
}
</script>

<template>
  <BaseDialog
    :open="isAsked"
    title="Who are you?"
    description="What is measured, changed and signed bears a name. It is kept on this computer; there is no password."
    @close="answer(null)"
  >
    <form class="space-y-3" @submit.prevent="go">
      <label class="block"
        ><span class="label">Your name</span
        ><input v-model.trim="name" class="field" autocomplete="name" maxlength="60" list="people-asked" /><datalist
          id="people-asked"
        >
          <option v-for="n in names" :key="n" :value="n" /></datalist
      ></label>
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="answer(null)">Cancel</button
        ><button class="button-main" :disabled="name === ''">Go on</button>
      </div>
    </form>
  </BaseDialog>
</template>
