import type { ABOUT } from '../core/throw/ranges.ts'
import { OBSERVED_KEYS, rowOf } from '../core/throw/observed.ts'
import { SHORT_KEYS, shortRowOf } from '../core/throw/short.ts'

/** What a field is called in a sentence where its name does not say it. */
const CALLED: Readonly<Record<string, string>> = {
  ...Object.fromEntries(SHORT_KEYS.map((key) => [key, shortRowOf(key).words])),
  ...Object.fromEntries(OBSERVED_KEYS.map((key) => [key, rowOf(key).words])),
  id: 'id',
  counts: 'answer whether it counts',
  sessionId: 'outing',
  discIds: 'list of discs',
  controlDiscId: 'control disc',
  hyzerDegs: 'release angles',
  thrownAt: 'time of the throw',
  takenBackAt: 'time it was taken back',
  backhandMps: 'full backhand speed',
  forehandMps: 'full forehand speed',
  markedG: 'marked weight',
  weighedG: 'weight on the scale',
  acquiredOn: 'day it was acquired',
}

/** Units that stand at the end of a field's name. */
const UNIT_AT_END = /(?:Mps|Deg|Rad|Mm|Rpm|M|S|C|G|Id)$/

/** What a field of the wire is called in a sentence: “hang time”, “control disc”, “planned throws”. */
export function fieldWords(path: readonly PropertyKey[]): string {
  const name = [...path].reverse().find((p): p is string => typeof p === 'string' && Number.isNaN(Number(p)))
  if (name === undefined) return ''
  const known = CALLED[name]
  if (known !== undefined) return known
  return name
    .replace(UNIT_AT_END, '')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
}

const UNITS: Readonly<Record<string, string>> = {
  Mps: 'm/s',
  Deg: '°',
  Mm: 'mm',
  M: 'm',
  C: '°C',
  G: 'g',
  S: 's',
  Rpm: 'rpm',
}
/** The unit a figure of the wire is in, by its field’s name: `windMps` is in m/s. */
export const unitOf = (field: string): string | undefined => UNITS[field.match(UNIT_AT_END)?.[0] ?? '']

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** What is wrong with a field, as a sentence begins: “The hang time must …”. */
export function wrongWords(issue: {
  readonly path: readonly PropertyKey[]
  readonly message: string
}): string {
  const words = fieldWords(issue.path)
  return words === '' ? capital(issue.message) : `The ${words} ${issue.message}`
}

/** Labels of figures that stand beside an input: “Hang time”. */
export const labelOf = (key: keyof typeof ABOUT | (typeof OBSERVED_KEYS)[number]): string =>
  capital(fieldWords([key]))
