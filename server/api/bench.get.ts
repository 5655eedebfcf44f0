import { benchPage } from '../db/bench'

export default defineRoute(() => benchPage(useServices().database, new Date().toISOString().slice(0, 10)))
