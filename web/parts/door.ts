import type { LucideIcon } from 'lucide-react'
import { lazy } from 'react'
import type { ComponentType } from 'react'
import type { BoundKey } from './keys.ts'

/** Where a station belongs: to the shed, to a trial, or apart from both. */
export type StationGroup = 'shed' | 'trial' | 'apart'

/** A screen of a station: its address within its group, and what shows there. */
export interface Screen {
  /** As the router reads it, with its parameters: `shelf/:discId`. */
  readonly path: string
  /** Is given the parameters of the address; of a trial’s screen, `trialId` too. */
  readonly show: ComponentType<Readonly<Record<string, string>>>
}

/**
 * The door of a station: everything the rest of the app knows of it. Router, bars, command list, key sheet and links between
 * stations are made from the list of doors; deleting a station’s folder and its line deletes the station.
 */
export interface Door {
  /** By which other stations speak of it. */
  readonly id: string
  /** By which people do. */
  readonly name: string
  readonly group: StationGroup
  readonly icon: LucideIcon
  /** Its screens by name; `main` is the one its name leads to. */
  readonly screens: { readonly main: Screen } & Readonly<Record<string, Screen>>
  /** Keys that do something while it is open. */
  readonly keys: readonly BoundKey[]
}

type Params<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | Params<Rest>
  : P extends `${string}:${infer Name}`
    ? Name
    : never
/** A parameter with a question mark may be missing. */
type Shown<P extends string, G extends StationGroup> = ComponentType<
  {
    readonly [K in Exclude<Params<P>, `${string}?`> | (G extends 'trial' ? 'trialId' : never)]: string
  } & {
    readonly [K in Extract<Params<P>, `${string}?`> as K extends `${infer Name}?` ? Name : never]?: string
  }
>

/** A screen that is loaded when it is first entered; what it is given follows from its address. */
export function screen<const P extends string, G extends StationGroup>(
  _group: G,
  path: P,
  load: () => Promise<{ default: Shown<P, G> }>,
): Screen {
  return { path, show: lazy(load as unknown as () => Promise<{ default: Screen['show'] }>) }
}
