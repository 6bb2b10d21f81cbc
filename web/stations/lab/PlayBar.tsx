import { Pause, Play, StepBack, StepForward } from 'lucide-react'
import { Button } from '../../parts/Button.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { PACES } from '../../flown/usePlaying.ts'
import type { Playing } from '../../flown/usePlaying.ts'

const PACE_WORDS = { 1: 'real time', 0.5: 'half', 0.2: 'a fifth' } as const

/** Plays the flight, slows it, steps through it; scrubbed by hand. */
export function PlayBar({ playing: p, lastsS }: { playing: Playing; lastsS: number }) {
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-2">
      <Button onClick={p.toggle} aria-label={p.playing ? 'Stop' : 'Play'} keyHint="Space" className="!px-3">
        {p.playing ? <Pause size={18} aria-hidden /> : <Play size={18} aria-hidden />}
      </Button>
      <Button onClick={() => p.step(-1)} aria-label="A tenth of a second back" className="!px-2.5">
        <StepBack size={18} aria-hidden />
      </Button>
      <Button onClick={() => p.step(1)} aria-label="A tenth of a second on" className="!px-2.5">
        <StepForward size={18} aria-hidden />
      </Button>
      <input
        type="range"
        aria-label="Seconds since the release"
        className="min-h-10 min-w-40 flex-1 accent-spruce"
        min={0}
        max={Number(lastsS.toFixed(2))}
        step={0.01}
        value={p.atS ?? lastsS}
        onChange={(e) => p.scrub(Number(e.target.value))}
      />
      <span className="figure w-26 text-right whitespace-nowrap">
        {(p.atS ?? lastsS).toFixed(1)} of {lastsS.toFixed(1)} s
      </span>
      <Choice
        label="Pace"
        value={p.pace}
        options={PACES.map((value) => ({ value, label: PACE_WORDS[value] }))}
        onChange={p.setPace}
      />
    </div>
  )
}
