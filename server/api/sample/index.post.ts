import { loadSample } from '../../jobs/sample'

/** Loads the sample campaign. */
export default defineRoute(event => loadSample(`http://${getRequestHeader(event, 'host')}`))
