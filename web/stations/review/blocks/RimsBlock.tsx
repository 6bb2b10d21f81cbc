import { useState } from 'react'
import { rimSection } from '../../../../core/shelf/rim.ts'
import { RimDrawing } from '../../../charts/RimDrawing.tsx'
import { DiscDot } from '../../../parts/Disc.tsx'
import type { Source } from '../sources.tsx'

/** The photo of a disc, where it has one. */
function DiscPhoto({ id, called }: { readonly id: string; readonly called: string }) {
  const [there, setThere] = useState(true)
  if (!there) return null
  return (
    <img
      src={`/api/discs/${id}/photo`}
      alt={`${called}, photographed`}
      className="max-h-48 rounded-lg"
      onError={() => setThere(false)}
    />
  )
}

/** Rims of the discs that were measured, laid over each other at the parting line, and photos of the discs. */
export function RimsBlock({ source: { view, inspected, name, look } }: { readonly source: Source }) {
  const photos = (
    <div className="flex flex-wrap gap-2">
      {view.discs.map((d) => (
        <DiscPhoto key={d.disc.id} id={d.disc.id} called={name(d.disc.code)} />
      ))}
    </div>
  )
  const rims = inspected.flatMap((i) => {
    const section = rimSection(i.inspection)
    const { code } = i.row.disc
    return 'outline' in section ? [{ section, look: look(code), code }] : []
  })
  if (rims.length === 0)
    return (
      <>
        <p className="text-note text-quiet">No rim of these discs was measured.</p>
        {photos}
      </>
    )
  return (
    <>
      <RimDrawing rims={rims} align="parting line" />
      <ul className="flex flex-wrap gap-x-4 text-note">
        {rims.map((r) => (
          <li key={r.code} className="flex items-center gap-1.5">
            <DiscDot look={r.look} size={12} /> {name(r.code)}
          </li>
        ))}
      </ul>
      {photos}
    </>
  )
}
