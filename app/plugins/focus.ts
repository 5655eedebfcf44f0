/** `v-focus`: the field that has just appeared is the one to type in. */
export default defineNuxtPlugin(app => {
  app.vueApp.directive('focus', { mounted: (el: HTMLElement) => el.focus(), getSSRProps: () => ({}) })
})
