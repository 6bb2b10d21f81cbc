import { outbox, useRefused, useWaiting } from '../data/outbox.ts'
import { Button } from '../parts/Button.tsx'
import { Dialog } from '../parts/Dialog.tsx'

/** What waits on this device, and what the server refused and why. */
export default function WaitingList({ onClose }: { onClose: () => void }) {
  const count = useWaiting().length
  const refused = useRefused()
  return (
    <Dialog
      open
      onClose={onClose}
      title={refused.length > 0 ? 'Not taken by the server' : 'Waiting to be sent'}
    >
      {count > 0 && (
        <p>
          {count} {count === 1 ? 'change is' : 'changes are'} stored on this device and will be sent, in
          order, as soon as the server answers.
        </p>
      )}
      {refused.map((r) => (
        <div key={r.key} className="mt-3 rounded-lg border border-rule p-3">
          <p className="font-medium">{r.why}</p>
          <p className="mt-1 text-note text-quiet">
            Nothing of it was stored. Correct it where you entered it, then let this go.
          </p>
          <Button className="mt-2" onClick={() => outbox.drop(r.key)}>
            Let it go
          </Button>
        </div>
      ))}
    </Dialog>
  )
}
