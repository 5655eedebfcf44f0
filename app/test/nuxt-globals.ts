import * as vue from 'vue'
import { onKeyStroke } from '@vueuse/core'
import { isTyping } from '../composables/shared/isTyping'
import { useNumberStyle } from '../composables/shared/useNumberStyle'

/** What Nuxt imports by itself, for components mounted on their own. */
export const went: string[] = []
const states: Record<string, unknown> = {}
Object.assign(globalThis, vue, {
  onKeyStroke,
  isTyping,
  useNumberStyle,
  // One state for all that ask, as in the page.
  useState: (key: string, first: () => unknown) => (states[key] ??= vue.ref(first())),
  useCampaignStore: () => ({ writeNumbers: () => Promise.resolve() }),
  navigateTo: (to: string) => went.push(to),
  useRouter: () => ({ currentRoute: { value: { params: { id: '7' } } } }),
})
