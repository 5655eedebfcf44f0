export type Theme = 'system' | 'light' | 'dark'

/** Light for the desk, dark for the rig: follows the system until somebody chooses. */
export function useTheme() {
  const chosen = useCookie<Theme>('hypomet-theme', { default: () => 'system', maxAge: 365 * 86_400, sameSite: 'lax' })
  const systemDark = usePreferredDark()
  const isDark = computed(() => (chosen.value === 'system' ? systemDark.value : chosen.value === 'dark'))
  const attribute = computed(() => (isDark.value ? 'dark' : 'light'))
  return {
    chosen,
    isDark,
    attribute,
    toggle: () => {
      chosen.value = isDark.value ? 'light' : 'dark'
    },
  }
}
