import { randomUUID } from 'node:crypto'
import {
  adviseRevision,
  candidateOf,
  families,
  formatQuantity,
  HypometError,
  planWithoutFacts,
  preferenceOf,
  revisionWith,
  type Advice,
  type Candidate,
  type UnitPreference,
} from '@hypomet/core'
import { desc, eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import type { materialsOf } from './materials'
import { writeRowsIn } from '../registers/service'
import { refreshFirings } from '../tests/firings'
import { decision, prediction, revision, test } from '../schema'
import { sizingInputOf, type SizedFrom } from './sizing'

export interface AcceptInput {
  /** A candidate of the advice, or sizes chosen by hand. */
  candidateId?: string | undefined
  sizes?: Record<string, number> | undefined
  label: string
  from: SizedFrom
  reasons: string
  weights: Record<string, number>
  /** What the next plan like this one should hear. */
  lesson?: { title: string; happened: string; instead: string } | undefined
}

/**
 * Makes a candidate the next revision: its properties, its mass, and a test with the same plan whose predictions
 * stand ready to be locked by the first sample. The decision is kept with its reasons and with what else stood there.
 */
export function acceptCandidate(database: Database, by: string, testId: number, said: AcceptInput) {
  return database.write(async db => {
    const {
      input,
      test: t,
      reduced,
      revision: from,
      article: of,
      campaign: c,
    } = await sizingInputOf(db, testId, said.from)
    const advice = adviseRevision(input)
    const candidate = said.sizes
      ? candidateOf(input, { sizes: said.sizes })
      : advice.candidates.find(k => k.id === said.candidateId)
    if (!candidate)
      throw new HypometError(
        'no-candidate',
        'This candidate is no longer there: results, limits or rules have changed. Look at the new ones.',
        { path: 'candidateId' },
      )
    if (candidate.changes.length === 0)
      throw new HypometError(
        'nothing-changed',
        'These are the sizes that were tested: there is nothing to make a revision of.',
        { path: 'sizes' },
      )
    const { properties, facts } = revisionWith(input, candidate.sizes)
    const step = randomUUID()
    const {
      ids: [revisionId],
    } = await writeRowsIn(
      db,
      by,
      'revision',
      {
        campaignId: c.id,
        changes: [],
        removes: [],
        creates: [
          {
            articleId: of.id,
            label: said.label,
            parentId: from.id,
            mass: candidate.mass,
            findingReductionId: reduced.id,
            properties,
            facts,
            constants: linksOf(from.constants, candidate, input.materials as Material[]),
            changed: changeInWords(candidate, preferenceOf(c)),
            why: said.reasons.trim() || reasonOf(advice, from.label),
          },
        ],
      },
      step,
    )
    const [made] = await db.select().from(revision).where(eq(revision.id, revisionId!))
    const at = new Date().toISOString()
    const [next] = await db
      .insert(test)
      .values({
        revisionId: made!.id,
        family: t.family,
        title: t.title,
        fixture: t.fixture,
        method: t.method,
        plan: planWithoutFacts(t.family, t.plan, from.facts) as typeof t.plan,
        createdAt: at,
      })
      .returning()
    await audit(db, { who: by, what: 'create', entity: 'test', entityId: next!.id, after: next, step })
    const predicted = await db
      .insert(prediction)
      .values(
        Object.entries(candidate.predictions).map(([quantity, p]) => ({
          revisionId: made!.id,
          testId: next!.id,
          quantity,
          value: p.value!,
          u: p.u ?? 0,
          k: p.k ?? 2,
          bound: p.bound,
          method: 'scaled',
          source: `scaled from revision ${from.label}`,
          createdAt: at,
        })),
      )
      .returning()
    for (const p of predicted)
      await audit(db, { who: by, what: 'create', entity: 'prediction', entityId: p.id, after: p, step })
    if (said.lesson)
      await writeRowsIn(
        db,
        by,
        'lesson',
        {
          campaignId: null,
          changes: [],
          removes: [],
          creates: [
            {
              ...said.lesson,
              families: [families[t.family]!.title],
              features: of.features,
              fixtures: [],
              methods: [],
              words: [],
              source: `${of.name} ${from.label}, ${t.title}`,
            },
          ],
        },
        step,
      )
    const [decided] = await db
      .insert(decision)
      .values({
        testId,
        reductionId: reduced.id,
        revisionId: made!.id,
        chosen: candidate,
        alternatives: advice.candidates.filter(k => k.id !== candidate.id),
        weights: said.weights,
        reasons: said.reasons.trim(),
        by,
        createdAt: at,
      })
      .returning()
    await audit(db, {
      who: by,
      what: 'accept candidate',
      entity: 'test',
      entityId: next!.id,
      after: { decision: decided!.id, candidate, revisionId: made!.id },
    })
    await refreshFirings(db, next!.id)
    return { revision: made!, testId: next!.id, step }
  })
}

/** What was decided after a test, newest first; a revision that was taken back is no longer there. */
export async function decisionsOf(db: Db, testId: number) {
  const rows = await db
    .select({ decision, label: revision.label })
    .from(decision)
    .leftJoin(revision, eq(revision.id, decision.revisionId))
    .where(eq(decision.testId, testId))
    .orderBy(desc(decision.id))
  return rows.map(r => ({ ...r.decision, label: r.label }))
}

type Material = Awaited<ReturnType<typeof materialsOf>>[number]

/**
 * A property that becomes that of a material known here is taken from its constant; one that is changed by hand from
 * none.
 */
function linksOf(
  links: Record<string, number>,
  { sizes }: Candidate,
  materials: readonly Material[],
): Record<string, number> {
  const material = materials.find(m =>
    Object.entries(m.si).every(([key, value]) => sizes[key] === undefined || sizes[key] === value),
  )
  return {
    ...Object.fromEntries(Object.entries(links).filter(([key]) => sizes[key] === undefined)),
    ...Object.fromEntries(Object.entries(material?.constants ?? {}).filter(([key]) => sizes[key] !== undefined)),
  }
}

function reasonOf({ overDesigned, driver, needs }: Advice, label: string): string {
  if (overDesigned) return `Revision ${label} meets every limit with room: mass comes out.`
  return driver
    ? `${driver.limit.name} of revision ${label}: ${driver.driver ? `${driver.driver}-driven` : 'short'}, ` +
        `${needs.filter(n => !n.isMet).length} of ${needs.length} limits short of the wanted margin.`
    : ''
}

const changeInWords = ({ changes }: Candidate, prefer: UnitPreference): string =>
  changes
    .map(
      c =>
        `${c.label.toLowerCase()} ${formatQuantity(c.from, c.kind, { prefer, digits: 3 })} → ` +
        `${formatQuantity(c.to, c.kind, { prefer, digits: 3 })}`,
    )
    .join(', ')
