import document from '../openapi.json'

/** This description of the routes. */
export default defineRoute(() => document)
