import { useHotkeys } from 'react-hotkeys-hook'

/** Keys that belong to a control while it has the focus. */
const onControl = (e: KeyboardEvent) =>
  (e.target as HTMLElement | null)?.closest(
    'button, a, input, select, [role="radiogroup"], [role="dialog"]',
  ) != null

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
  useHotkeys('enter', (e) => !onControl(e) && act.keep(), { enableOnFormTags: ['slider'] })
  useHotkeys('u', act.takeBack)
  useHotkeys('w', act.turn)
  useHotkeys('s', act.clock)
  useHotkeys('r', act.range)
  useHotkeys('v', act.volunteer)
  useHotkeys('m', act.telling)
  useHotkeys('n', act.later)
  useHotkeys('a', () => act.again?.())
  useHotkeys('p', act.pause)
  useHotkeys('t', act.nextThrower)
  useHotkeys('c', act.count)
  useHotkeys('[', () => act.angle(-1), { useKey: true })
  useHotkeys(']', () => act.angle(1), { useKey: true })
}
