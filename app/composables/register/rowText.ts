import {
  checkRow,
  HypometError,
  isHypometError,
  readCell,
  writeCell,
  type Field,
  type Register,
  type RegisterContext,
  type Row,
} from '@hypomet/core'

export type Texts = Record<string, string>

/** Fields that a form shows. */
export const formFields = (register: Register): Field[] => register.fields.filter(f => f.type !== 'data')

/** A row as the texts of its fields. */
export const textsOf = (register: Register, row: Row, context: RegisterContext): Texts =>
  Object.fromEntries(formFields(register).map(f => [f.key, writeCell(f, row[f.key], row, context)]))

/**
 * Texts as values, field by field, and every refusal at its place.
 *
 * @param base  what the row holds beyond the texts
 */
export function readTexts(
  register: Register,
  texts: Texts,
  base: Row,
  context: RegisterContext,
): { row: Row; problems: Record<string, string> } {
  const row: Row = { ...base }
  const problems: Record<string, string> = {}
  for (const f of formFields(register)) {
    if (!(f.key in texts)) continue
    try {
      row[f.key] = readCell(f, texts[f.key]!, row, context)
    } catch (e) {
      if (!isHypometError(e)) throw e
      problems[f.key] = e.message
    }
  }
  return { row, problems }
}

/** The refusal of a row that reads but does not hold; null when it does. */
export function refusalOf(register: Register, row: Row, context: RegisterContext): HypometError | null {
  try {
    checkRow(register, row, context)
    return null
  } catch (e) {
    if (!isHypometError(e)) throw e
    return e
  }
}
