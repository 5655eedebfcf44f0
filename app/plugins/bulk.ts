import { isBulk } from '~/composables/shared/bulk'

/** What is bulk goes into the payload by the browser’s own JSON, many times quicker than value by value. */
export default definePayloadPlugin(() => {
  definePayloadReducer('Bulk', value => (isBulk(value) ? JSON.stringify(value) : false))
  definePayloadReviver('Bulk', (json: string) => JSON.parse(json) as object)
})
