import { textOf } from '../../../core/review/document.ts'
import type { DocNode } from '../../../core/review/document.ts'
import { disclosureOf } from '../../../core/review/sections.ts'
import { useSources } from './sources.tsx'

/** Which throws were simulated, and where discs came from, that the section, as it was written, does not name: nothing of it is dropped in silence. */
export function NotDisclosed({ body }: { readonly body: DocNode }) {
  const said = textOf(body)
  const missing = [...useSources().values()].flatMap((s) =>
    !s
      ? []
      : [
          ...(s.facts.simulated === undefined || said.includes(s.facts.simulated) ? [] : [s.facts.simulated]),
          ...s.facts.discs.filter((d) => !said.includes(d.name) && !said.includes(d.code)).map(disclosureOf),
        ],
  )
  return missing.map((sentence) => <p key={sentence}>{sentence}</p>)
}
