import { removeAttachment } from '../../../db/tests/attachments'

export default defineRoute(event => removeAttachment(useServices().database, personOf(event), idOf(event)))
