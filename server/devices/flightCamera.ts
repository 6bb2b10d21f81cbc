import { randomNormal } from 'd3'
import type { ThrowPath } from '../../contract/trials.ts'

/** A camera behind the tee that follows a disc: a real one would hand over the same. */
export interface FlightCamera {
  readonly name: string
  film(
    at: (s: number) => { downM: number; rightM: number; upM: number } | undefined,
    hangS: number,
  ): ThrowPath
}

const FRAMES_A_SECOND = 30
/** The camera is not quite where it thinks, and misses some frames, in runs. */
const OFF_SD_M = 0.25
const FRAME_SD_M = 0.2
const LOSES = 0.02
const FINDS = 0.15

/** A stand-in at thirty frames a second with noise and dropouts. */
export function simulatedCamera(uniform: () => number): FlightCamera {
  const normal = randomNormal.source(uniform)()
  const cm = (v: number) => Math.round(100 * v) / 100
  return {
    name: 'Simulated flight camera',
    film(at, hangS) {
      const path = {
        timeS: [] as number[],
        downM: [] as number[],
        rightM: [] as number[],
        upM: [] as number[],
      }
      const off = [OFF_SD_M * normal(), OFF_SD_M * normal(), OFF_SD_M * normal()] as const
      let lost = false
      for (let i = 0; i / FRAMES_A_SECOND <= hangS; i++) {
        lost = lost ? uniform() > FINDS : uniform() < LOSES
        const s = i / FRAMES_A_SECOND
        const p = at(s)
        if (lost || !p) continue
        path.timeS.push(Math.round(1000 * s) / 1000)
        path.downM.push(cm(p.downM + off[0] + FRAME_SD_M * normal()))
        path.rightM.push(cm(p.rightM + off[1] + FRAME_SD_M * normal()))
        path.upM.push(cm(p.upM + off[2] + FRAME_SD_M * normal()))
      }
      return path
    },
  }
}
