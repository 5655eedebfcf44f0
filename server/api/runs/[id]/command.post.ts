import { commandBody } from '../../../live/commandBody'
import { obey } from '../../../live/rigs'

/** A command of the console to the run. */
export default defineRoute({ body: commandBody }, (event, { body }) =>
  obey(useServices().runs, idOf(event), personOf(event), body),
)
