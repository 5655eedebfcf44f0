import { listSensors } from '../../db/sensors'

export default defineRoute(() => listSensors(useServices().database.read))
