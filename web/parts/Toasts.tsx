import * as Toast from '@radix-ui/react-toast'
import { useSyncExternalStore } from 'react'

interface Message {
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

const STAYS_MS = 7_000
/** What can still be undone is not read and reached in the same time by every hand. */
const STAYS_TO_ACT_MS = 20_000

/** Says something briefly, with at most one thing to do about it. */
export function say(text: string, action?: Message['action'], tone: Message['tone'] = 'said'): void {
  tell([...messages.slice(-2), { id: next++, text, tone, ...(action && { action }) }])
}
export const sayWrong = (text: string): void => say(text, undefined, 'wrong')

export function Toasts() {
  const list = useSyncExternalStore(
    (l) => {
      listeners.add(l)
      return () => listeners.delete(l)
    },
    () => messages,
  )
  return (
    <Toast.Provider swipeDirection="left">
      {list.map((m) => (
        <Toast.Root
          key={m.id}
          type={m.tone === 'wrong' ? 'foreground' : 'background'}
          duration={m.action ? STAYS_TO_ACT_MS : STAYS_MS}
          onOpenChange={(open) => !open && tell(messages.filter((x) => x.id !== m.id))}
          className={`flex items-center justify-between gap-3 rounded-lg px-4 py-2.5 text-body shadow-lg ${
            m.tone === 'wrong' ? 'bg-accent text-card' : 'bg-pick text-on-pick'
          }`}
        >
          <Toast.Description>{m.text}</Toast.Description>
          {m.action && (
            <Toast.Action asChild altText={m.action.label}>
              <button
                type="button"
                className="min-h-9 rounded-md border border-current px-3 font-semibold"
                onClick={m.action.run}
              >
                {m.action.label}
              </button>
            </Toast.Action>
          )}
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed bottom-36 left-3 z-50 flex w-96 max-w-[calc(100vw-1.5rem)] flex-col gap-2 md:bottom-5 md:left-5" />
    </Toast.Provider>
  )
}
