import { createContext, useContext } from 'react'
import type { ReactNode } from 'react'
import { generatePath, Link } from 'react-router'
import type { LinkProps } from 'react-router'
import type { Door } from './door.ts'

/** The stations there are, for links between them. */
export const Stations = createContext<readonly Door[]>([])

/** Which screen of which station: “field”, or “field/short” for another than its main one. */
export type ScreenName = `${string}` | `${string}/${string}`

/** Where a screen is; undefined where there is no such station. */
export function addressIn(
  doors: readonly Door[],
  at: ScreenName,
  params: Readonly<Record<string, string>> = {},
): string | undefined {
  const [id, name = 'main'] = at.split('/')
  const door = doors.find((d) => d.id === id)
  const screen = door?.screens[name]
  if (!door || !screen) return undefined
  const base = door.group === 'trial' ? '/trials/:trialId/' : '/'
  return generatePath(`${base}${screen.path}`, params)
}

/** Addresses of the stations there are. */
export function useAddresses() {
  const doors = useContext(Stations)
  return (at: ScreenName, params?: Readonly<Record<string, string>>) => addressIn(doors, at, params)
}

interface StationLinkProps extends Omit<LinkProps, 'to'> {
  readonly at: ScreenName
  readonly params?: Readonly<Record<string, string>>
  /** Behind the address, with its question mark. */
  readonly search?: string
  /** What stands there where there is no such station: the same words, or nothing. */
  readonly otherwise?: 'words' | 'nothing'
  readonly children: ReactNode
}

/** A link to another station; stations never name each other’s addresses. */
export function StationLink({ at, params, search = '', otherwise = 'nothing', ...link }: StationLinkProps) {
  const address = useAddresses()(at, params)
  if (address !== undefined) return <Link {...link} to={address + search} />
  return otherwise === 'words' ? <span className={link.className}>{link.children}</span> : null
}
