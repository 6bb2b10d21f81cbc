import type { ReactNode } from 'react'
import { StationLink } from '../../parts/StationLink.tsx'
import { TAB_NAV, TAB_ROW, tabLook } from '../../parts/tabLook.ts'

const SECTIONS = [
  ['main', 'Looks and throwers'],
  ['crew', 'Phones and people'],
  ['data', 'Data'],
] as const
export type SectionName = (typeof SECTIONS)[number][0]

/** A section of the settings under the ways to all of them. */
export function Sections({ here, children }: { here: SectionName; children: ReactNode }) {
  return (
    <div className="mx-auto max-w-5xl space-y-3 p-3 md:p-4">
      <h1 className="sr-only">Settings</h1>
      <nav aria-label="Sections of the settings" className={TAB_NAV}>
        <ul className={TAB_ROW}>
          {SECTIONS.map(([name, words]) => (
            <li key={name}>
              <StationLink
                at={`settings/${name}`}
                aria-current={name === here ? 'page' : undefined}
                className={tabLook(name === here)}
              >
                {words}
              </StationLink>
            </li>
          ))}
        </ul>
      </nav>
      {children}
    </div>
  )
}
