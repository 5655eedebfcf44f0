import { benchPage } from '../db/campaigns/bench'

/** The bench: campaigns, what runs, and what is due. */
export default defineRoute(() => benchPage(useServices().database, new Date().toISOString().slice(0, 10)))
