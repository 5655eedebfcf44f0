import { listSensors } from '../../db/registers/inventory'

/** The sensors of the inventory. */
export default defineRoute(() => listSensors(useServices().database.read))
