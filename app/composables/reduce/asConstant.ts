import type { Kind } from '@hypomet/core'

/** Where a measured value is put in a constant's place: the page is filled in, what it replaces is decided there. */
export function asConstant(
  slug: string,
  units: ReturnType<typeof useUnits>,
  measured: { mean: number; sd: number | null; n: number; kind: Kind; source: string },
) {
  const text = (si: number, digits?: number) =>
    units.show(si, measured.kind, digits ? { digits } : {}).replace(/\u202f/g, ' ')
  return {
    path: `/campaigns/${slug}/constant`,
    query: {
      measured: text(measured.mean),
      n: String(measured.n),
      ...(measured.sd === null ? {} : { spread: text(measured.sd, 2) }),
      source: measured.source,
    },
  }
}
