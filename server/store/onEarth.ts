import { OBSERVED_KEYS, rowOf } from '../../core/throw/observed.ts'
import type { EarthThrow } from '../../core/formats/onEarth.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import type { Place, Thrower, TrialFile } from '../../contract/trials.ts'

/** Throws of a trial at places that say where they are, and the names of places that do not. */
export function earthThrows(
  { sessions, throws }: TrialFile,
  discs: readonly ShelvedDisc[],
  people: readonly Thrower[],
  places: readonly Place[],
): { readonly throws: EarthThrow[]; readonly nowhere: readonly string[] } {
  const nowhere = new Set<string>()
  const laid = throws
    .filter((t) => t.takenBackAt === null)
    .flatMap((t, i): EarthThrow[] => {
      const session = sessions.find((s) => s.id === t.sessionId)
      const place = places.find((p) => p.id === session?.placeId)
      if (place?.latDeg == null || place.lonDeg == null || place.bearingDeg === null) {
        nowhere.add(place?.name ?? session?.place ?? '')
        return []
      }
      const code = discs.find((d) => d.disc.id === t.discId)?.disc.code ?? ''
      return [
        {
          id: t.label ?? t.id,
          name: `${i + 1}, ${code}`,
          aim: {
            place: place.name,
            latDeg: place.latDeg,
            lonDeg: place.lonDeg,
            bearingDeg: place.bearingDeg,
            lengthM: place.fieldLengthM ?? undefined,
          },
          leg: t.leg ?? 'out',
          thrownAt: new Date(t.thrownAt).toISOString(),
          carryM: t.carryM,
          rightM: t.rightM,
          ...(t.path && { path: t.path }),
          facts: {
            disc: code,
            thrower: people.find((p) => p.id === t.throwerId)?.name ?? null,
            ...Object.fromEntries(
              OBSERVED_KEYS.filter((key) => t[key] !== null && key !== 'carryM' && key !== 'rightM').map(
                (key) => [rowOf(key).column, t[key]],
              ),
            ),
          },
        },
      ]
    })
  return { throws: laid, nowhere: [...nowhere] }
}
