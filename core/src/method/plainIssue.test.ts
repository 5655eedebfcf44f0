import { expect, it } from 'vitest'
import * as z from 'zod'
import { plainIssue } from './plainIssue'

const says = (schema: z.ZodType, value: unknown) =>
  schema.safeParse(value, { error: plainIssue }).error?.issues.map(i => i.message)

it.each([
  [z.object({ a: z.number() }), undefined, 'A value is needed here.'],
  [z.object({ a: z.number() }), { a: null }, 'A value is needed here.'],
  [z.number(), 'much', 'A number is needed here.'],
  [z.number(), NaN, 'A number is needed here.'],
  [z.array(z.number()), 3, 'A list is needed here.'],
  [z.array(z.number()).min(2), [1], 'At least 2 values here.'],
  [z.array(z.number()).max(1), [1, 2], 'At most 1 value here.'],
  [z.string().min(1), '', 'This must not be empty.'],
  [z.string().max(3), 'four', 'At most 3 characters are needed here.'],
  [z.number().min(2), 1, 'Must not be below 2.'],
  [z.number().positive(), 0, 'Must be above 0.'],
  [z.number().max(2), 3, 'Must not be above 2.'],
  [z.enum(['a', 'b']), 'c', 'Must be one of a, b.'],
  [z.literal('a'), 'c', 'Must be a.'],
  [z.iso.date(), 'soon', 'A date is written as 2026-11-28.'],
  [z.strictObject({}), { odd: 1 }, '“odd” is not known here.'],
  [z.union([z.object({ a: z.number() }), z.string()]), 3, 'This is none of the forms that are possible here.'],
])('%#: a schema that says nothing itself answers in plain words', (schema, value, message) => {
  expect(says(schema, value)).toEqual([message])
})

it('leaves what a schema says itself as it is', () => {
  expect(says(z.string({ error: 'A title.' }), 3)).toEqual(['A title.'])
})
