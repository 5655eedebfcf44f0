import type { DeclaredOwn, Kind, MethodOutput } from '@hypomet/core'

interface Kept {
  settings: Record<string, unknown>
  output: Pick<MethodOutput, 'own'>
}

/** Results of one's own: those that an article declares, and those that only a test's settings ask for. */
export function ownOf(declared: readonly DeclaredOwn[], kept: Kept | undefined): DeclaredOwn[] {
  const asked = (kept?.settings['own'] ?? []) as Omit<DeclaredOwn, 'kind'>[]
  const further = asked.flatMap(o => {
    const kind: Kind | null | undefined = kept?.output.own?.[o.name]?.kind
    return declared.some(d => d.name === o.name) || !kind ? [] : [{ ...o, kind }]
  })
  return [...declared, ...further]
}
