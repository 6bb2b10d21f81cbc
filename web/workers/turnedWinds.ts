import type { TurnedWind } from '../../core/judge/turnedWind.ts'
import { askRating } from './rating.ts'
import type { Reading } from '../../core/trial/reading.ts'
import { useAsked } from '../data/useAsked.ts'

/** Looked at once no more throws come for so long, ms: it takes as long as several fits. */
const PAUSE_MS = 400
const NONE: readonly TurnedWind[] = []

/** Outings whose wind reads as if it was logged the wrong way round, by a reading of all throws. */
export const useTurnedWinds = (ratingKey: string, reading: Reading | undefined): readonly TurnedWind[] =>
  useAsked(
    reading && reading.firstFrom === undefined ? `${ratingKey} ${reading.serial}` : null,
    () => askRating((w) => w.turnedWinds(ratingKey)),
    { about: ratingKey, pauseMs: PAUSE_MS },
  ).value ?? NONE
