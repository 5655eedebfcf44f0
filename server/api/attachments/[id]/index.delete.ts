import { removeAttachment } from '../../../db/tests/attachments'

/** Takes an attachment off what it was attached to; the file stays. */
export default defineRoute(event => removeAttachment(useServices().database, personOf(event), idOf(event)))
