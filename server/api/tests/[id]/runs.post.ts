import { startBody } from '../../../live/startBody'

export default defineRoute(async event => ({
  runId: await useServices().runs.start(personOf(event), idOf(event), await bodyOf(event, startBody)),
}))
