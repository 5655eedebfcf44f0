/** The run console is dark by default, whatever the desk prefers; null elsewhere. */
export const useForcedTheme = () => useState<'light' | 'dark' | null>('forced-theme', () => null)
