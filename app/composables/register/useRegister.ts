import {
  familyOutlines,
  HypometError,
  isHypometError,
  METRIC,
  registers,
  type Register,
  type RegisterContext,
  type Row,
  type UnitPreference,
} from '@hypomet/core'

export type RegisterRow = Row & { id: number; version: number; fixed?: boolean }

export interface RowChange {
  id: number
  version: number
  values: Row
}

/** The rows of a register, and writing them: one step each, that can be undone. */
export async function useRegister(
  id: string,
  campaignId: number | null = null,
  prefer: MaybeRefOrGetter<UnitPreference> = METRIC,
) {
  const register = registers[id] as Register
  const api = useApi()
  const undo = useUndoStore()
  const query = campaignId === null ? {} : { campaignId }
  const path = `/api/registers/${id}` as const
  const { data, refresh } = await useAsyncData(`register-${id}-${campaignId}`, () => api.get(path, query))
  watch(
    () => undo.changes,
    () => refresh(),
  )
  const rows = computed((): RegisterRow[] => data.value?.rows ?? [])
  const context = computed<RegisterContext>(() => ({
    refs: data.value?.refs ?? {},
    prefer: toValue(prefer),
    families: familyOutlines,
    currency: data.value?.currency,
  }))
  const nameOf = (row: Row) => String(row[register.name] ?? '')

  /** All of it or nothing. @returns the refusal, or null */
  async function write(
    batch: { creates?: Row[]; changes?: RowChange[]; removes?: { id: number; version: number }[] },
    what: string,
  ): Promise<HypometError | null> {
    try {
      const { step } = await api.post(path, { campaignId, ...batch })
      undo.did(step, what)
      await refresh()
      return null
    } catch (e) {
      if (!isHypometError(e)) throw e
      // Theirs is shown beside mine.
      if (e.code === 'changed-meanwhile') await refresh()
      return e
    }
  }
  const one = register.one.toLowerCase()
  return {
    register,
    rows,
    context,
    refresh,
    write,
    nameOf,
    create: (values: Row) => write({ creates: [values] }, `new ${one} “${nameOf(values)}”`),
    change: (row: RegisterRow, values: Row, version = row.version) =>
      write({ changes: [{ id: row.id, version, values }] }, `${one} “${nameOf({ ...row, ...values })}” changed`),
    remove: (row: RegisterRow) =>
      write({ removes: [{ id: row.id, version: row.version }] }, `${one} “${nameOf(row)}” removed`),
    exportHref: (format: 'csv' | 'json') => {
      const query = new URLSearchParams({ format })
      if (campaignId !== null) query.set('campaignId', String(campaignId))
      return `${path}/export?${query}`
    },
  }
}
