import type { Inspection, WearNote } from '../contract/inspection.ts'
import { demoId } from './shed.ts'

type Figures = [
  height: number,
  rimDepth: number,
  rimWidth: number,
  partingLine: number,
  dome: number,
  nose: number,
  edge: number,
  stiffness: number,
  grip: number,
]

const inspected = (
  code: string,
  day: string,
  diameterMm: number,
  temperatureC: number,
  [heightMm, rimDepthMm, rimWidthMm, partingLineMm, domeMm, noseDeg, edge, stiffness, grip]: Figures,
  bead = false,
  warpMm: number | null = null,
): Inspection => ({
  id: demoId('inspection', code, day),
  discId: demoId('disc', code),
  day,
  diameterMm,
  heightMm,
  rimDepthMm,
  rimWidthMm,
  partingLineMm,
  domeMm,
  noseDeg,
  warpMm,
  bead,
  edge,
  stiffness,
  grip,
  temperatureC,
  note: '',
})

// prettier-ignore
/** What the volunteers measured on the shed's table with a caliper. */
export const demoInspections: Inspection[] = [
  inspected('HS-021', '2026-10-03', 211, 8, [16.4, 12.6, 19, 7.6, 2.2, 42, 0, 4, 1]),
  inspected('HS-017', '2026-10-03', 211.5, 8, [18.4, 12.2, 19, 6.4, 4.6, 36, 1, 2, 3]),
  inspected('HS-030', '2026-10-03', 211, 8, [17.2, 12.4, 19, 7.1, 3.2, 40, 1, 3, 1]),
  inspected('HS-026', '2026-10-03', 211.5, 8, [18.9, 12, 18.8, 6.1, 5, 35, 2, 0, 4]),
  inspected('HS-009', '2026-10-03', 211.5, 8, [18, 12.2, 19, 5.8, 4.4, 33, 1, 1, 3], false, 1.5),
  inspected('HS-002', '2026-09-20', 217, 14, [19.6, 13.4, 12.6, 8.2, 3.6, 40, 1, 2, 3]),
  inspected('HS-011', '2026-11-14', 211, 7, [17.4, 11.8, 19.4, 6.8, 3.1, 39, 1, 3, 2]),
  inspected('HS-033', '2026-11-14', 210.5, 7, [15.6, 11.9, 18.4, 8, 1.4, 44, 0, 4, 2]),
  inspected('HS-040', '2026-11-14', 210, 7, [19.2, 14.4, 10.4, 9.6, 2.2, 45, 0, 2, 3], true),
  inspected('HS-041', '2026-11-14', 210, 7, [18.8, 14.2, 10.4, 9.9, 1.6, 46, 0, 4, 2], true),
]

const worn = (code: string, day: string, throws: number, hardHits: number, note: string): WearNote => ({
  id: demoId('wear', code, day),
  discId: demoId('disc', code),
  day,
  throws,
  hardHits,
  note,
  removedAt: null,
})

// prettier-ignore
/** What the loan cards say. */
export const demoWearNotes: WearNote[] = [
  worn('HS-009', '2025-06-30', 420, 9, 'first summer on loan'),
  worn('HS-009', '2026-06-21', 380, 10, 'second summer, until midsummer'),
  worn('HS-009', '2026-08-31', 380, 11, 'second summer; rim chewed by the oak'),
  worn('HS-002', '2026-08-31', 640, 4, 'thrown at every session'),
  worn('HS-017', '2026-10-20', 60, 1, 'lent twice since the test'),
  worn('HS-014', '2026-06-21', 90, 1, 'third on loan'),
  worn('HS-014', '2026-08-31', 90, 2, 'third on loan'),
  worn('HS-021', '2026-09-30', 150, 2, 'thrown into the wind all summer'),
  worn('HS-041', '2026-09-30', 210, 0, ''),
  worn('HS-012', '2026-08-31', 510, 12, ''),
]
