import type * as z from 'zod'

const TYPES: Record<string, string> = {
  string: 'Text',
  number: 'A number',
  int: 'A whole number',
  boolean: 'Yes or no',
  array: 'A list',
  tuple: 'A list',
  object: 'A group of values',
  record: 'A group of values',
  date: 'A date',
}
const FORMS: Record<string, string> = {
  date: 'A date is written as 2026-11-28.',
  datetime: 'A date with its time is written as 2026-11-28T14:05:00Z.',
  regex: 'This is not written in the form that is needed here.',
}

/** What is wrong with a value, for people: of schemas that do not say it themselves. */
export const plainIssue: z.core.$ZodErrorMap = issue => {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined || issue.input === null
        ? 'A value is needed here.'
        : `${TYPES[issue.expected] ?? 'Another kind of value'} is needed here.`
    case 'invalid_value':
      return issue.input === undefined
        ? 'A value is needed here.'
        : `Must be ${issue.values.length > 1 ? 'one of ' : ''}${issue.values.map(String).join(', ')}.`
    case 'too_small':
      return bound(issue.origin, Number(issue.minimum), issue.inclusive !== false, ['below', 'above', 'At least'])
    case 'too_big':
      return bound(issue.origin, Number(issue.maximum), issue.inclusive !== false, ['above', 'below', 'At most'])
    case 'not_multiple_of':
      return `Must be a multiple of ${issue.divisor}.`
    case 'invalid_format':
      return FORMS[issue.format] ?? 'This is not written in the form that is needed here.'
    case 'unrecognized_keys':
      return `${issue.keys.map(k => `“${k}”`).join(', ')} ${issue.keys.length === 1 ? 'is' : 'are'} not known here.`
    case 'invalid_key':
      return 'A name is not one of those that are possible here.'
    default:
      return 'This is none of the forms that are possible here.'
  }
}

type BoundWords = readonly [past: string, within: string, count: string]

function bound(origin: string, limit: number, isInclusive: boolean, [past, within, count]: BoundWords): string {
  if (origin === 'string')
    return limit === 1 && past === 'below' ? 'This must not be empty.' : `${count} ${limit} characters are needed here.`
  if (origin === 'array' || origin === 'set') return `${count} ${limit} ${limit === 1 ? 'value' : 'values'} here.`
  return isInclusive ? `Must not be ${past} ${limit}.` : `Must be ${within} ${limit}.`
}
