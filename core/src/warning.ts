export interface Warning {
  code: string
  message: string
}

/** Warnings that say why a result could not be had. */
const WHY_NULL: readonly string[] = [
  'band-open',
  'design-not-reached',
  'gap',
  'grid-differs',
  'no-approach',
  'no-input-pulse',
  'no-mode',
  'no-modulus',
  'no-resonance',
  'no-rise',
  'no-sidelobe',
  'no-slope',
  'no-swing',
  'no-thickness',
  'no-width',
  'no-yield',
  'no-zero',
  'one-specimen',
  'range-outside',
  'ring-too-few',
  'sweep-starts-late',
]

/** Whether a warning says why results are null. */
export const isWhyNull = (code: string): boolean => WHY_NULL.includes(code)
