import { keptFigures } from '../../../db/results/currentResults'

/** Figures kept with a reduction: they never change. */
export default defineRoute(event => {
  setResponseHeader(event, 'cache-control', 'private, max-age=31536000, immutable')
  return keptFigures(useServices().database.read, idOf(event))
})
