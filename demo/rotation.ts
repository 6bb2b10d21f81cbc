import type { DiscEventKind } from '../core/rotation/life.ts'
import type { DiscEvent, JobRow, PlasticWear } from '../contract/rotation.ts'
import type { PlasticKind } from '../core/shelf/usualWear.ts'
import { demoId, ODILE, demoPlastics } from './shed.ts'

type Flight = JobRow['wanted']
const job = (
  rank: number,
  name: string,
  wanted: Flight,
  within: JobRow['within'],
  throwing: Partial<JobRow['throwing']> = {},
): JobRow => ({
  id: demoId('job', name),
  name,
  throwerId: ODILE.thrower.id,
  throwing: { armMps: ODILE.backhand.fullSpeedMps, hyzerDeg: 0, power: 1, windAlongMps: 0, ...throwing },
  wanted,
  within,
  rank,
  removedAt: null,
})

/** What the volunteers of the shed want discs for, at Odile's arm. */
export const demoJobs: JobRow[] = [
  job(1, 'Straight mid', { at60M: -2, finishM: -5, carryM: 91 }, { at60M: 2, finishM: 6, carryM: 8 }),
  job(2, 'Late turn driver', { at60M: -3.5, finishM: -3, carryM: 103 }, { at60M: 2, finishM: 7, carryM: 10 }),
  job(
    3,
    'Headwind fairway',
    { at60M: 0.5, finishM: 20, carryM: 82 },
    { at60M: 3, finishM: 9, carryM: null },
    { windAlongMps: -5 },
  ),
  job(
    4,
    'Touch approach',
    { at60M: 0, finishM: 0.5, carryM: 27 },
    { at60M: 1.5, finishM: 2.5, carryM: 3 },
    { power: 0.6 },
  ),
]

const jobNamed = (name: string) => demoId('job', name)
const happened = (
  code: string,
  day: string,
  kind: DiscEventKind,
  job: string | null = null,
  note = '',
): DiscEvent => ({
  id: demoId('event', code, day, kind),
  discId: demoId('disc', code),
  day,
  kind,
  jobId: job === null ? null : jobNamed(job),
  note,
  removedAt: null,
})

/** A season of the shed: who was carried for what, and who was kept out of the trees. */
export const demoDiscEvents: DiscEvent[] = [
  happened('HS-002', '2026-04-12', 'moved', 'Straight mid'),
  happened('HS-009', '2026-04-12', 'moved', 'Late turn driver'),
  happened('HS-014', '2026-09-27', 'moved', 'Late turn driver', 'the next to turn late'),
  happened('HS-017', '2026-09-27', 'moved', 'Late turn driver', 'the old one turns too far by now'),
  happened('HS-021', '2026-06-14', 'moved', 'Headwind fairway'),
  happened('HS-021', '2026-10-11', 'spared', null, 'not over the mill race any more'),
  happened('HS-041', '2026-05-03', 'moved', 'Touch approach'),
  happened('HS-044', '2026-08-02', 'lost', null, 'over the boathouse'),
]

const KINDS: Readonly<Record<string, PlasticKind>> = {
  Loam: 'base',
  Reed: 'base',
  Bark: 'base',
  Slate: 'premium',
  Flint: 'premium',
  Resin: 'premium',
  Amber: 'premium',
  Tallow: 'soft',
}
export const demoPlasticWear: PlasticWear[] = demoPlastics.map(({ id, name }) => ({
  id,
  kind: KINDS[name] ?? 'unknown',
  // the first run of it was the last
  outOfMake: id === demoId('plastic', 'Skelmire', 'Bark'),
}))
