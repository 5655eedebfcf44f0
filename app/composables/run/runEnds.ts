/** How a test ended that was not run here, as people say it. */
export const RUN_ENDS = [
  { value: 'ladder done', label: 'The ladder was done, nothing failed' },
  { value: 'article broke', label: 'The article failed' },
  { value: 'fixture gave way', label: 'The fixture gave way' },
  { value: 'aborted', label: 'It was stopped' },
] as const

export type RunEnd = (typeof RUN_ENDS)[number]['value']
