/** A test and a task as money sees them; costs in the campaign's currency. */
export interface PricedTest {
  id: number
  cost: number | null
  ran: boolean
}

export interface PricedTask {
  testId: number | null
  cost: number | null
}

export interface CampaignMoney {
  /** For tests that have been run, for what is still to come, and of that for tasks that belong to no test. */
  spent: number
  committed: number
  aside: number
  /** Beyond the budget; null where none is written down. */
  unfunded: number | null
  left: number | null
  byTest: { testId: number; cost: number }[]
  /** Tests of which nobody has said what they cost. */
  unpriced: number
}

/**
 * What a campaign costs, counted once: a test costs what its tasks cost where any of them says so, else what is written
 * at
 * the test; tasks of no test come on top.
 */
export function campaignMoney(
  tests: readonly PricedTest[],
  tasks: readonly PricedTask[],
  budget: number | null,
): CampaignMoney {
  const costOf = (t: PricedTest): number | null => {
    const priced = tasks.filter(k => k.testId === t.id && k.cost !== null)
    return priced.length > 0 ? priced.reduce((s, k) => s + k.cost!, 0) : t.cost
  }
  const known = tests.map(t => ({ ...t, cost: costOf(t) }))
  const sum = (list: readonly { cost: number | null }[]) => list.reduce((s, x) => s + (x.cost ?? 0), 0)
  const ids = new Set(tests.map(t => t.id))
  const aside = sum(tasks.filter(k => k.testId === null || !ids.has(k.testId)))
  const spent = sum(known.filter(t => t.ran))
  const committed = sum(known.filter(t => !t.ran)) + aside
  const over = budget === null ? null : spent + committed - budget
  return {
    spent,
    committed,
    aside,
    unfunded: over === null ? null : Math.max(0, over),
    left: over === null ? null : Math.max(0, -over),
    byTest: known.flatMap(t => (t.cost === null ? [] : [{ testId: t.id, cost: t.cost }])),
    unpriced: known.filter(t => t.cost === null).length,
  }
}
