import type { TakenAnew } from '~/types/api'

/** What became of the kept result, in a sentence. */
export const anewWords = ({ reductionId, refused }: TakenAnew): string =>
  refused
    ? `Mended. The kept result could not be taken anew with its settings: ${refused.message}`
    : reductionId === null
      ? 'Mended.'
      : 'Mended; the kept result was taken anew and superseded.'
