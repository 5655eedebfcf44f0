import type { Result } from '../method/reduction'
import type { Fact } from '../register/facts'
import type { Path } from './candidates'
import type { SizeLaw, TestedRevision } from './laws'
import type { SizingRules } from './made'
import type { SizingModel } from './model'

/** What a kind of test knows of the sizes of its articles. */
export interface FamilySizing<Plan, Article> {
  /** Powers of sizes that a revision’s facts may give. */
  laws?: readonly SizeLaw[]
  /** Values from which results are counted, by the reduction’s settings. */
  bases?(settings: Readonly<Record<string, unknown>>, results: Readonly<Record<string, Result>>): Record<string, number>
  /** A calculation of its own in their place. */
  model?(input: OwnSizingInput<Plan, Article>): SizingModel
  paths?(input: OwnSizingInput<Plan, Article>): Path[]
}

/** What a calculation of a kind’s own is given, parsed. */
export interface OwnSizingInput<Plan, Article> {
  article: Article
  plan: Plan
  facts: readonly Fact[]
  results: Readonly<Record<string, Result>>
  materials: unknown
  rules: SizingRules
  /** Other tested revisions of the article. */
  history: readonly RevisionTested[]
}

export interface RevisionTested {
  label: string
  properties: unknown
  facts: readonly Fact[]
  results: TestedRevision['results']
}
