export interface Message {
  readonly id: number
  readonly text: string
  readonly tone: 'said' | 'wrong'
  readonly action?: { readonly label: string; readonly run: () => void }
}

let messages: readonly Message[] = []
let next = 1
const listeners = new Set<() => void>()
const tell = (list: readonly Message[]) => {
  messages = list
  for (const l of listeners) l()
}

/** Says something briefly, with at most one thing to do about it. */
export function say(text: string, action?: Message['action'], tone: Message['tone'] = 'said'): void {
  tell([...messages.slice(-2), { id: next++, text, tone, ...(action && { action }) }])
}
export const sayWrong = (text: string): void => say(text, undefined, 'wrong')

/** What is said at the moment, for whoever shows it. */
export const messagesSaid = {
  subscribe: (told: () => void): (() => void) => {
    listeners.add(told)
    return () => listeners.delete(told)
  },
  read: (): readonly Message[] => messages,
  /** One was read, or let go. */
  drop: (id: number): void => tell(messages.filter((m) => m.id !== id)),
}
