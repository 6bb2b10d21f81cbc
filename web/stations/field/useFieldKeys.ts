import { useKey } from '../../parts/keys.ts'
import { FIELD_KEYS } from './keys.ts'

/** Controls that Enter does something else for while they have the focus. */
const SAYS_ELSE = 'button, a, textarea, summary, [role="option"], [role="menuitem"], [role="dialog"]'
/** Whether Enter means something else than keeping the throw: a button, a list that is open, a dialog. */
const saysElse = (e: KeyboardEvent) =>
  (e.target as HTMLElement | null)?.closest(SAYS_ELSE) != null ||
  document.querySelector('[role="dialog"], [role="listbox"]') !== null

export interface FieldActions {
  readonly keep: () => void
  readonly takeBack: () => void
  readonly turn: () => void
  readonly clock: () => void
  readonly range: () => void
  readonly volunteer: () => void
  readonly telling: () => void
  readonly later: () => void
  readonly again: (() => void) | undefined
  readonly pause: () => void
  readonly nextThrower: () => void
  readonly count: () => void
  readonly angle: (by: number) => void
}

/** The keys of the field; those of the strip and of the calls stand with them. */
export function useFieldKeys(act: FieldActions): void {
  useKey(
    FIELD_KEYS.keep,
    (e) => {
      if (saysElse(e)) return
      act.keep()
      // whoever types landings types the next one
      const typed = (e.target as HTMLElement).closest('[data-typed]')
      typed?.querySelector('input')?.focus()
    },
    { enableOnFormTags: true },
  )
  useKey(FIELD_KEYS.takeBack, act.takeBack)
  useKey(FIELD_KEYS.turn, act.turn)
  useKey(FIELD_KEYS.clock, act.clock)
  useKey(FIELD_KEYS.range, act.range)
  useKey(FIELD_KEYS.volunteer, act.volunteer)
  useKey(FIELD_KEYS.telling, act.telling)
  useKey(FIELD_KEYS.later, act.later)
  useKey(FIELD_KEYS.again, () => act.again?.())
  useKey(FIELD_KEYS.pause, act.pause)
  useKey(FIELD_KEYS.nextThrower, act.nextThrower)
  useKey(FIELD_KEYS.count, act.count)
  useKey(FIELD_KEYS.lessHyzer, () => act.angle(-1))
  useKey(FIELD_KEYS.moreHyzer, () => act.angle(1))
}
