import { benchPage } from '../db/campaigns/bench'

export default defineRoute(() => benchPage(useServices().database, new Date().toISOString().slice(0, 10)))
