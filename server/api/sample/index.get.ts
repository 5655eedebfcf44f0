import { sampleNow } from '../../jobs/sample'

/** Whether the sample campaign is there, or on its way. */
export default defineRoute(() => sampleNow())
