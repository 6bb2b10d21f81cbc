import { readFileSync } from 'node:fs'
import path from 'node:path'
import { bisectRight } from 'd3'
import { numberColumn, parseCsv, Problems } from '../../core/formats/csvCells.ts'
import type { Anemometer } from './anemometer.ts'
import type { WeighingScale } from './scale.ts'

/** What is wrong with a recording, all of it. */
export class BadRecording extends Error {}

type Ranges<K extends string> = Readonly<Record<K, readonly [low: number, high: number]>>
/** Readings of a device by their columns, `t_s` increasing from the first. */
type Recording<K extends string> = Readonly<Record<K | 't_s', readonly number[]>>

/**
 * Reads what a device said, to be played again: CSV with a header, a reading a row, `t_s` in seconds and increasing.
 *
 * @throws BadRecording with every row and column at fault
 */
function readRecording<K extends string>(file: string, csv: string, ranges: Ranges<K>): Recording<K> {
  const problems = new Problems(20)
  const cells = parseCsv(csv)
  const all: Ranges<K | 't_s'> = { t_s: [-1e9, 1e9], ...ranges } as Ranges<K | 't_s'>
  const columns = Object.entries(all) as [K | 't_s', readonly [number, number]][]
  const read = columns.map(([name, range]) => {
    const values = numberColumn(cells, name, range, problems.report)
    if (!values) problems.report(null, name, `column ${name} is missing`)
    return [name, values ?? []] as const
  })
  const recording = Object.fromEntries(read) as Record<K | 't_s', number[]>
  if (cells.rows.length < 2) problems.report(null, null, 'it has fewer than two readings')
  recording.t_s.forEach((t, i, list) => {
    if (i > 0 && !(t > list[i - 1]!)) problems.report(i + 2, 't_s', 't_s does not increase')
  })
  if (problems.list.length > 0) {
    const told = problems
      .told()
      .map((p) => (p.row === null ? '' : `row ${p.row}: `) + p.message.replace(/\.$/, ''))
    throw new BadRecording(`${file} cannot be played: ${told.join('; ')}.`)
  }
  return recording
}

/** Plays a recording: the reading so many seconds after its first, again from the start once it is over. */
const playing =
  <K extends string>({ t_s, ...columns }: Recording<K>, endless: boolean) =>
  (sinceS: number): Record<K, number> => {
    const [first, last] = [t_s[0]!, t_s.at(-1)!]
    // the last reading lasts as long as the one before it did
    const length = last - first + (last - t_s.at(-2)!)
    const at = first + (endless ? sinceS % length : Math.min(sinceS, last - first))
    const row = Math.max(0, bisectRight(t_s, at) - 1)
    return Object.fromEntries(
      Object.entries(columns as unknown as Record<K, readonly number[]>).map(([k, list]) => [
        k,
        (list as readonly number[])[row]!,
      ]),
    ) as Record<K, number>
  }

/** An anemometer that says again what one said before: `t_s, speed_mps, from_deg`. It starts when it is first read. */
export function replayedAnemometer(file: string, csv: string): Anemometer {
  const said = playing(readRecording(file, csv, { speed_mps: [0, 60], from_deg: [0, 360] }), true)
  let startedMs: number | undefined
  return {
    name: `Anemometer played from ${path.basename(file)}`,
    read(_place, at) {
      startedMs ??= at.getTime()
      const { speed_mps, from_deg } = said(Math.max(0, at.getTime() - startedMs) / 1000)
      return { speedMps: speed_mps, fromDeg: from_deg % 360 }
    },
  }
}

/** A scale that says again what one said with a disc on it: `t_s, grams, steady` (0 or 1), from the disc’s being put on. */
export function replayedScale(file: string, csv: string): WeighingScale {
  const said = playing(readRecording(file, csv, { grams: [-50, 2000], steady: [0, 1] }), false)
  let tareG = 0
  let lastG = 0
  return {
    name: `Scale played from ${path.basename(file)}`,
    resolutionG: 0.1,
    tare: () => void (tareG = lastG),
    read(loadG, sinceS) {
      const { grams, steady } = loadG === null ? { grams: 0, steady: 1 } : said(sinceS)
      lastG = grams
      return { grams: Number((grams - tareG).toFixed(3)), steady: steady === 1 }
    },
  }
}

/**
 * Devices that play files, by what the environment names: `VEER_ANEMOMETER` and `VEER_SCALE`.
 *
 * @throws BadRecording where a file cannot be read or is not a recording
 */
export function playedDevices(env: Readonly<Record<string, string | undefined>>) {
  const play = <D>(name: string, make: (file: string, csv: string) => D): D | undefined => {
    const file = env[name]
    if (!file) return undefined
    let csv: string
    try {
      csv = readFileSync(file, 'utf8')
    } catch (e) {
      throw new BadRecording(`${name} is ${file}, which cannot be read: ${(e as Error).message}.`)
    }
    return make(file, csv)
  }
  const anemometer = play('VEER_ANEMOMETER', replayedAnemometer)
  const scale = play('VEER_SCALE', replayedScale)
  return { ...(anemometer && { anemometer }), ...(scale && { scale }) }
}
