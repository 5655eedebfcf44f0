import { listSensors } from '../../db/registers/inventory'

export default defineRoute(() => listSensors(useServices().database.read))
