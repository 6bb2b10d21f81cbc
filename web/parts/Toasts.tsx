import * as Toast from '@radix-ui/react-toast'
import { useSyncExternalStore } from 'react'
import { messagesSaid } from '../data/say.ts'

const STAYS_MS = 7_000
/** What can still be undone is not read and reached in the same time by every hand. */
const STAYS_TO_ACT_MS = 20_000

export function Toasts() {
  const list = useSyncExternalStore(messagesSaid.subscribe, messagesSaid.read)
  return (
    <Toast.Provider swipeDirection="left">
      {list.map((m) => (
        <Toast.Root
          key={m.id}
          type={m.tone === 'wrong' ? 'foreground' : 'background'}
          duration={m.action ? STAYS_TO_ACT_MS : STAYS_MS}
          onOpenChange={(open) => !open && messagesSaid.drop(m.id)}
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
