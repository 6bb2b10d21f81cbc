import { csvFormatRows } from 'd3'
import { DEGREE } from '../../core/flight/units.ts'
import { simulateSession } from './session.ts'
import type { SessionDesign } from './session.ts'

const COLUMNS =
  'thrower,hand,stroke,disc,speed,glide,turn,fade,hyzer_deg,hyzer_called_deg,wind_along_mps,carry_m,right_m'

/** The throws of a simulated session the way a person would have written them down, CSV; angles must have been called. */
export function sheetOfSession(design: SessionDesign): string {
  const { evidence } = simulateSession(design)
  const deg = (rad: number) => String(Math.round(rad / DEGREE))
  const rows = evidence.throws.map((t) => {
    const { speed, glide, turn, fade } = evidence.discs.find((d) => d.id === t.disc)!.published
    return [
      ...['Isolde', 'right', 'backhand', `Disc ${t.disc.slice(5)}`],
      ...[speed, glide, turn, fade].map(String),
      deg(t.hyzerRad),
      deg(t.hyzerCalledRad!),
      ...[t.air.windAlongMps, t.carryM, -t.veerM].map((v) => v.toFixed(1)),
    ]
  })
  return `${COLUMNS}\n${csvFormatRows(rows)}`
}
