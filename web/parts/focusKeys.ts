const pressedBy = (e: KeyboardEvent, what: string): boolean =>
  (e.target as HTMLElement | null)?.closest(what) != null

/** Whether Enter belongs to what has the focus. */
export const entersWhatHasFocus = (e: KeyboardEvent): boolean =>
  pressedBy(e, 'button, a, select, [role="menuitem"]')
/** Whether Space does: it chooses too. */
export const spacePressesWhatHasFocus = (e: KeyboardEvent): boolean =>
  entersWhatHasFocus(e) || pressedBy(e, '[role="radio"]')
