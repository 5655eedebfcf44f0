import { localDay } from '@hypomet/core'
import { benchPage } from '../db/campaigns/bench'

/** The bench: campaigns, what runs, and what is due. */
export default defineRoute(() => benchPage(useServices().database, localDay()))
