/**
 * Something in a plan that will not work, said where it is, with what would mend it. `stop` keeps the plan from being
 * released; `warn` is for people to weigh.
 */
export interface Finding {
  code: string
  severity: 'stop' | 'warn'
  message: string
  /** What would mend it, in the plan's own terms. */
  mend: string
  /** Place in the plan, as in `rungs.3.target`. */
  path: string
}

export const stop = (code: string, path: string, message: string, mend: string): Finding => ({
  code,
  severity: 'stop',
  path,
  message,
  mend,
})
export const warn = (code: string, path: string, message: string, mend: string): Finding => ({
  code,
  severity: 'warn',
  path,
  message,
  mend,
})
