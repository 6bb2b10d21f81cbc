import { v7 as newId } from 'uuid'

export const numbers = { speed: 9, glide: 5, turn: -1, fade: 2 }

/** A disc with a mold, plastic and maker of its own, as it is entered. */
export function entry(code: string) {
  const [id, makerId, moldId, plasticId] = [newId(), newId(), newId(), newId()]
  return {
    id,
    maker: { id: makerId, name: `Maker of ${code}` },
    mold: { id: moldId, makerId, name: `Mold ${code}`, discClass: 'fairway-driver', numbers },
    plastic: { id: plasticId, moldId, name: 'Loam', numbers: null },
    disc: {
      id,
      code,
      plasticId,
      runId: null as string | null,
      stamped: null as typeof numbers | null,
      markedG: 175,
      weighedG: null,
      source: 'bought',
      wear: 'new',
      note: '',
      removedAt: null,
    },
  }
}
