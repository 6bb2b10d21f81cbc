import { at } from '../../contract/api.ts'
import { proposeDiscs } from '../../core/plan/propose.ts'
import type { QuestionKind } from '../../core/plan/questions.ts'
import { proposedOf } from '../../contract/proposed.ts'
import type { Proposal } from '../../contract/shelfPage.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import { read, Unreachable } from './api.ts'
import { rowHere } from './shelfLocal.ts'

/**
 * Discs that answer a question about one of them. Without the server, and for a disc that it has not heard of, they are
 * proposed by what this device knows of the shelf.
 */
export async function proposalFor(
  kind: QuestionKind,
  about: string,
  discs: readonly ShelvedDisc[],
): Promise<Proposal> {
  try {
    return await read(at('GET /api/proposal', { kind, disc: about }))
  } catch (e) {
    const shelf = discs.map((d) => proposedOf(rowHere(d, undefined)))
    const own = shelf.find((d) => d.id === about)
    if (!own || !(e instanceof Unreachable)) throw e
    const found = proposeDiscs(kind, own, shelf)
    return { ...found, discs: [...found.discs] }
  }
}
