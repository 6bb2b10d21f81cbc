import { fadeSign, mirrored } from '../../../../core/flight/hand.ts'
import { REFERENCE_ARM_MPS } from '../../../../core/flight/arm.ts'
import { STANDARD_BODY } from '../../../../core/flight/disc.ts'
import { Z90 } from '../../../../core/rating/normal.ts'
import { METHOD } from '../../../../core/review/method.ts'
import type { ReaderData } from '../../../../core/review/reader.ts'
import { ratedFromShelf } from '../../../../contract/sheet.ts'
import type { Preferences } from '../../../../contract/preferences.ts'
import type { Source } from '../sources.tsx'

/** What travels inside a page, of the trials of a review. */
export function readerDataOf(sources: readonly Source[], units: Preferences['units']): ReaderData {
  return {
    format: 'veer-line-review',
    version: 1,
    method: METHOD,
    units,
    trials: sources.map(({ view, reading, name, look }) => {
      const { outcome } = reading
      const rated = outcome.discs.filter((d) => d.throws > 0)
      const discs = rated.map((d) => {
        const shelved = view.discs.find((s) => s.disc.code === d.disc)
        return {
          name: name(d.disc),
          place: look(d.disc),
          published: d.published,
          observed: d.observed,
          within: { glide: Z90 * d.sd.glide, turn: Z90 * d.sd.turn, fade: Z90 * d.sd.fade },
          body: shelved ? ratedFromShelf(shelved, null).body : STANDARD_BODY,
        }
      })
      const at = new Map(rated.map((d, i) => [d.disc, i]))
      const codes = new Map(view.discs.map((d) => [d.disc.id, d.disc.code]))
      return {
        name: view.trial.name,
        armMps: armOf({ view }) ?? REFERENCE_ARM_MPS,
        discs,
        throws: view.throws.flatMap((t) => {
          const disc = at.get(codes.get(t.discId) ?? '')
          return disc === undefined
            ? []
            : [
                {
                  disc,
                  carryM: t.carryM,
                  veerM: mirrored(t.rightM, fadeSign(t.hand, t.stroke)),
                  counts: t.counts,
                },
              ]
        }),
      }
    }),
  }
}

/** Full power of whoever threw most, where it is on file. */
function armOf({ view }: Pick<Source, 'view'>): number | undefined {
  const counts = new Map<string, number>()
  for (const t of view.throws) counts.set(t.throwerId, (counts.get(t.throwerId) ?? 0) + 1)
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  return view.throwers.find((t) => t.id === most?.[0])?.backhandMps ?? undefined
}
