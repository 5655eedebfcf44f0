import { removeAttachment } from '../../../db/attachments'

export default defineRoute(event => removeAttachment(useServices().database, personOf(event), idOf(event)))
