import * as vue from 'vue'
import { onKeyStroke } from '@vueuse/core'
import { isTyping } from '../composables/shared/isTyping'

/** What Nuxt imports by itself, for components mounted on their own. */
export const went: string[] = []
Object.assign(globalThis, vue, {
  onKeyStroke,
  isTyping,
  navigateTo: (to: string) => went.push(to),
  useRouter: () => ({ currentRoute: { value: { params: { id: '7' } } } }),
})
