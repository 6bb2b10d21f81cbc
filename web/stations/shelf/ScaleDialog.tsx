import { useEffect, useState } from 'react'
import type { Disc } from '../../../contract/shelf.ts'
import { write } from '../../data/api.ts'
import { changeDiscs } from '../../data/shelfPage.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'

interface Reading {
  readonly grams: number
  readonly steady: boolean
}

/** A disc on the scale: what it shows, live, until it is kept. */
export function ScaleDialog({ disc, onClose }: { disc: Disc; onClose: () => void }) {
  const [on, setOn] = useState(true)
  const [reading, setReading] = useState<Reading>()
  const [lost, setLost] = useState(false)
  useEffect(() => {
    const source = new EventSource(`/api/devices/scale${on ? `?disc=${disc.id}` : ''}`)
    source.onmessage = (e) => {
      setLost(false)
      setReading(JSON.parse(e.data as string) as Reading)
    }
    source.onerror = () => setLost(true)
    return () => source.close()
  }, [disc.id, on])
  const grams = reading && Math.round(reading.grams * 10) / 10
  return (
    <Dialog open onClose={onClose} title={`${disc.code} on the scale`}>
      <p className="text-quiet">
        Simulated kitchen scale, shows tenths of a gram; its zero drifts, so tare it empty.
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
        <Button disabled={on} onClick={() => void write('/api/devices/scale/tare', {})}>
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
