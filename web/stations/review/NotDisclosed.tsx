import { textOf } from '../../../core/review/document.ts'
import type { DocNode } from '../../../core/review/document.ts'
import { disclosureOf } from '../../../core/review/sections.ts'
import { useSources } from './sources.tsx'

/** Where discs came from that the section, as it was written, does not name: nothing of it is dropped in silence. */
export function NotDisclosed({ body }: { readonly body: DocNode }) {
  const said = textOf(body)
  const missing = [...useSources().values()].flatMap((s) =>
    (s?.facts.discs ?? []).filter((d) => !said.includes(d.name) && !said.includes(d.code)),
  )
  return missing.map((d) => <p key={d.code}>{disclosureOf(d)}</p>)
}
