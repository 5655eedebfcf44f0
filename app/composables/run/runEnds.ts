/** How a test ended that was not run here, as people say it. */
export const RUN_ENDS = [
  { value: 'ladder done', label: 'Ladder done, no failure' },
  { value: 'article broke', label: 'The article failed' },
  { value: 'fixture gave way', label: 'The fixture failed' },
  { value: 'aborted', label: 'It was stopped' },
] as const

export type RunEnd = (typeof RUN_ENDS)[number]['value']

/** What is kept of a break beside its end; nothing of another end. */
export const brokeOf = (end: RunEnd, { mode, place }: { mode: string; place: string }) =>
  end === 'article broke' || end === 'fixture gave way' ? { mode, place, note: '', peak: null } : null
