const KEY = 'veer-line.trial'

/** The trial last looked at on this device. */
export const lastTrial = {
  get: (): string | null => localStorage.getItem(KEY),
  set: (id: string): void => localStorage.setItem(KEY, id),
}
