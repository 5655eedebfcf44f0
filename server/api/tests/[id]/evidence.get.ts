import { evidenceOf } from '../../../db/results/evidence'

/** What the record says to the questions that are asked before verdicts are signed. */
export default defineRoute(event => evidenceOf(useServices().database.read, idOf(event)))
