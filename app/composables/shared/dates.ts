export { dayText as day, localDay, momentText as moment } from '@hypomet/core'
