import { useHotkeys } from 'react-hotkeys-hook'
import type { HotkeyCallback, Options } from 'react-hotkeys-hook'

/** A key that does something: what is pressed, how that is written for people, and what it does. */
export interface BoundKey {
  readonly press: string | readonly string[]
  readonly shown: string
  readonly does: string
  /** It goes by the sign that is written, wherever that stands on a keyboard. */
  readonly written?: true
}

/** Keys by what they are for: they are bound by {@link useKey} and listed as they stand, so that none is the one without the other. */
export type KeyTable = Readonly<Record<string, BoundKey>>

/** Binds a key of a table for as long as whoever binds it is on the screen. */
export function useKey(
  { press, written }: BoundKey,
  act: HotkeyCallback,
  options: Options = {},
  dependencies?: readonly unknown[],
): void {
  useHotkeys(press, act, { ...(written && { useKey: true }), ...options }, dependencies)
}
