import { at } from '../../../contract/api.ts'
import { useState } from 'react'
import { mutate } from 'swr'
import { read, send } from '../../data/api.ts'
import { useRead } from '../../data/hooks.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { say, sayWrong } from '../../data/say.ts'

/** Puts the demo away or brings it back; everything that was read of the shelf and its trials is then read again. */
async function move(way: 'away' | 'back'): Promise<void> {
  try {
    await send(at(`POST /api/demo/${way}`))
    await mutate(
      (key) => typeof key === 'string' && key.startsWith('/api/') && !key.includes('/preferences/'),
    )
    if (way === 'back') say('The demo is back.')
    else
      say('This shelf is yours, and empty.', { label: 'Bring the demo back', run: () => void move('back') })
  } catch (e) {
    sayWrong((e as Error).message)
  }
}

/** Whether this is the demo. */
export const useDemo = () => useRead(at('GET /api/demo'))

/** Says that what is shown is the demo, with the way to a shelf of one’s own; and the way back until the first own throw. */
export function DemoNote() {
  const { data } = useDemo()
  const [asking, setAsking] = useState(false)
  // what is shown may be of before the last throw: what would be lost is asked anew
  const start = async () => {
    try {
      const now = await read(at('GET /api/demo'))
      await mutate('/api/demo', now, { revalidate: false })
      if (now.tried > 0) setAsking(true)
      else await move('away')
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  if (!data || (data.demo === 'away' && data.ownThrows > 0)) return null
  return (
    <div
      role="note"
      className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 rounded-xl border border-rule bg-card px-4 py-2.5"
    >
      {data.demo === 'here' ? (
        <>
          <p className="min-w-60 flex-1">
            <strong>This is the demo:</strong> the Harrowmere Lending Shed, its discs, throwers and throws are
            invented. Try everything; you cannot spoil it.
          </p>
          <Button onClick={() => void start()}>Start my own shelf</Button>
        </>
      ) : (
        <>
          <p className="min-w-60 flex-1 text-quiet">
            Your own shelf. Until your first throw the demo can come back beside it.
          </p>
          <Button kind="quiet" onClick={() => void move('back')}>
            Bring the demo back
          </Button>
        </>
      )}
      <Dialog open={asking} onClose={() => setAsking(false)} title="Start my own shelf">
        <p>
          {data.tried === 1 ? 'The throw' : `The ${data.tried} throws`} you tried in the demo’s trials{' '}
          {data.tried === 1 ? 'goes' : 'go'} with it, and {data.tried === 1 ? 'does' : 'do'} not come back
          with it. Trials and discs of your own stay.
        </p>
        <div className="mt-4 flex flex-wrap gap-2">
          <Button
            kind="primary"
            onClick={() => {
              setAsking(false)
              void move('away')
            }}
          >
            Put the demo away
          </Button>
          <Button onClick={() => setAsking(false)}>Cancel</Button>
        </div>
      </Dialog>
    </div>
  )
}
