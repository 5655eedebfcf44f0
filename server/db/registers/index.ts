import { unknownRegister } from '@hypomet/core'
import { actions } from './actions'
import { constants } from './constants'
import type { RegisterRepository } from './repository'
import { firings, lessons } from './lessons'
import { limits } from './limits'
import { people } from './people'
import { predictions } from './predictions'
import { sensors } from './sensors'
import { tasks } from './tasks'
import { articles, campaigns, revisions, tests } from './things'

export const repositories: Record<string, RegisterRepository | undefined> = Object.fromEntries(
  [
    campaigns,
    articles,
    revisions,
    tests,
    limits,
    predictions,
    constants,
    actions,
    lessons,
    firings,
    sensors,
    people,
    tasks,
  ].map(k => [k.register.id, k]),
)

/** @throws HypometError `not-found` */
export function repositoryOf(id: string): RegisterRepository {
  const repository = repositories[id]
  if (!repository) throw unknownRegister(id)
  return repository
}
