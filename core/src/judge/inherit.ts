export interface InheritedLimit {
  quantity: string
  level: string
  comparator: string
  state: string
  fromRevisionId: number | null
}

/**
 * The limits that a revision is measured against: those of its article, and those set for it or for an ancestor. A
 * limit
 * on the same result, level and side that was set nearer to the revision takes the place of one from further up.
 *
 * @example limitsOfRevision(2, [{ id: 1, parentId: null }, { id: 2, parentId: 1 }], limits)
 */
export function limitsOfRevision<L extends InheritedLimit>(
  revisionId: number,
  revisions: readonly { id: number; parentId: number | null }[],
  limits: readonly L[],
): L[] {
  const line = lineage(revisionId, revisions)
  const distance = (l: L): number => (l.fromRevisionId === null ? line.length : line.indexOf(l.fromRevisionId))
  const applying = limits.filter(l => l.state === 'in-force' && distance(l) >= 0)
  return applying.filter(
    l =>
      !applying.some(
        o =>
          o.quantity === l.quantity &&
          o.level === l.level &&
          o.comparator === l.comparator &&
          distance(o) < distance(l),
      ),
  )
}

/** A revision and its ancestors, nearest first; a circle ends where it closes. */
export function lineage(revisionId: number, revisions: readonly { id: number; parentId: number | null }[]): number[] {
  const line: number[] = []
  for (
    let at: number | null = revisionId;
    at !== null && !line.includes(at);
    at = revisions.find(r => r.id === at)?.parentId ?? null
  )
    line.push(at)
  return line
}
