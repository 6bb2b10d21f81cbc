import { rimSection } from '../../../../core/shelf/rim.ts'
import { RimDrawing } from '../../../charts/RimDrawing.tsx'
import { DiscDot } from '../../../parts/Disc.tsx'
import type { Source } from '../sources.tsx'

/** Rims of the discs that were measured, laid over each other at the parting line. */
export function RimsBlock({ source: { inspected, name, place } }: { readonly source: Source }) {
  const rims = inspected.flatMap((i) => {
    const section = rimSection(i.inspection)
    const { code } = i.row.disc
    return 'outline' in section ? [{ section, place: place(code), code }] : []
  })
  if (rims.length === 0) return <p className="text-note text-quiet">No rim of these discs was measured.</p>
  return (
    <>
      <RimDrawing rims={rims} align="parting line" />
      <ul className="flex flex-wrap gap-x-4 text-note">
        {rims.map((r) => (
          <li key={r.code} className="flex items-center gap-1.5">
            <DiscDot place={r.place} size={12} /> {name(r.code)}
          </li>
        ))}
      </ul>
    </>
  )
}
