import * as z from 'zod'
import { comparable, comparedOf } from '../../db/results/compare'

/** The tests that are asked for, and those that could be. */
export default defineRoute(
  {
    query: z.object({
      tests: z
        .string()
        .regex(/^\d+(,\d+)*$/)
        .optional(),
    }),
  },
  async (event, { query }) => {
    const { read } = useServices().database
    const { tests } = query
    return {
      tests: tests ? await comparedOf(read, [...new Set(tests.split(',').map(Number))].slice(0, 12)) : [],
      choices: await comparable(read),
    }
  },
)
