import { MATERIAL_PROPERTIES, type QuantityInput } from '@hypomet/core'
import type { Db } from '../connection/client'
import { standing } from '../registers/constants'

const NEEDED = ['modulus', 'strength', 'shearStrength', 'density'] as const

/** What candidates may be made of: every subject whose standing constants say all that sizing needs. */
export async function materialsOf(db: Db, campaignId: number) {
  const bySubject: Record<string, Record<string, { id: number; entered: QuantityInput; value: number }>> = {}
  for (const c of await standing(db, campaignId)) {
    const key = Object.entries(MATERIAL_PROPERTIES).find(
      ([, title]) => title.toLowerCase() === c.property.toLowerCase(),
    )?.[0]
    if (key) (bySubject[c.subject] ??= {})[key] = { id: c.id, entered: c.entered, value: c.value }
  }
  const complete = Object.entries(bySubject).filter(([, p]) => NEEDED.every(key => p[key]))
  return complete.map(([name, p]) => ({
    name,
    ...Object.fromEntries(NEEDED.map(key => [key, p[key]!.entered])),
    leadTimeDays: p['leadTimeDays'] ? p['leadTimeDays'].value / 86_400 : 0,
    ...(p['cost'] ? { cost: p['cost'].value } : {}),
    constants: Object.fromEntries(NEEDED.map(key => [key, p[key]!.id])),
    si: Object.fromEntries(NEEDED.map(key => [key, p[key]!.value])),
  }))
}
