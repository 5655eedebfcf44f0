import * as z from 'zod'
import { comparable, comparedOf } from '../../db/results/compare'

const query = z.object({
  tests: z
    .string()
    .regex(/^\d+(,\d+)*$/)
    .optional(),
})

/** The tests that are asked for, and those that could be. */
export default defineRoute(async event => {
  const { read } = useServices().database
  const { tests } = query.parse(getQuery(event))
  return {
    tests: tests ? await comparedOf(read, [...new Set(tests.split(',').map(Number))].slice(0, 12)) : [],
    choices: await comparable(read),
  }
})
