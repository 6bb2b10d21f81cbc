import { at } from '../../../contract/api.ts'
import { useEffect, useState } from 'react'
import { ScaleReport } from '../../../contract/devices.ts'
import type { Disc } from '../../../contract/shelf.ts'
import { send } from '../../data/api.ts'
import { changeDiscs } from '../../data/shelfPage.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { sayWrong } from '../../data/say.ts'

/** A disc on the scale: what it shows, live, until it is kept. */
export function ScaleDialog({ disc, onClose }: { disc: Disc; onClose: () => void }) {
  const [on, setOn] = useState(true)
  const [reading, setReading] = useState<ScaleReport>()
  const [lost, setLost] = useState(false)
  useEffect(() => {
    const source = new EventSource(`/api/devices/scale${on ? `?disc=${disc.id}` : ''}`)
    source.onmessage = (e) => {
      setLost(false)
      setReading(ScaleReport.parse(JSON.parse(e.data as string)))
    }
    source.onerror = () => setLost(true)
    return () => source.close()
  }, [disc.id, on])
  const grams = reading && Math.round(reading.grams * 10) / 10
  return (
    <Dialog open onClose={onClose} title={`${disc.code} on the scale`}>
      <p className="text-quiet">
        {reading?.device ?? 'Scale'}: shows tenths of a gram. Its zero drifts, so tare it empty.
      </p>
      <p className="figure my-5 text-center text-5xl" role="status" aria-live="off">
        {lost ? '–' : grams === undefined ? '…' : `${grams.toFixed(1)} g`}
      </p>
      <p className="mb-4 text-center text-quiet">
        {lost
          ? 'The scale does not answer.'
          : !on
            ? 'Nothing on it.'
            : reading?.steady
              ? 'At rest.'
              : 'Swinging in …'}
      </p>
      <div className="flex flex-wrap justify-center gap-2">
        <Button onClick={() => setOn(!on)}>{on ? 'Take it off' : 'Put it on'}</Button>
        <Button
          disabled={on}
          onClick={() =>
            void send(at('PUT /api/devices/scale/tare')).catch((e: Error) => sayWrong(e.message))
          }
        >
          Tare
        </Button>
        <Button
          kind="primary"
          disabled={!on || lost || !reading?.steady}
          onClick={() => {
            void changeDiscs([disc], { weighedG: grams! }, `${disc.code} weighs ${grams} g.`)
            onClose()
          }}
        >
          Keep this weight
        </Button>
      </div>
    </Dialog>
  )
}
