import { ARRAYS, PARQUET, SOUNDS } from './arrays'
import type { Hostile } from './bytes'
import { OPEN_SHEETS, WORKBOOKS } from './sheets'
import { JSONS, TEXTS, VIBRATION } from './words'

export type { Hostile } from './bytes'

/** Files that lie, break off, or want all of a machine. */
export const HOSTILE: readonly Hostile[] = [
  ...WORKBOOKS,
  ...OPEN_SHEETS,
  ...PARQUET,
  ...ARRAYS,
  ...SOUNDS,
  ...JSONS,
  ...VIBRATION,
  ...TEXTS,
]
