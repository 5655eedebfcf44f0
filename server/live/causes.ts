/** What an error says, with what it was caused by: a query that failed hides why in its cause. */
export const causesOf = (e: unknown): string =>
  e instanceof Error ? [e.message, causesOf(e.cause)].filter(Boolean).join(': ') : e === undefined ? '' : String(e)
