/** A plain number as people type it, with either decimal sign and either minus; NaN where it is none. */
export const typedNumber = (text: string): number =>
  text.trim() === '' ? NaN : Number(text.replace(',', '.').replace('−', '-'))
