// The second thread of a crew: flies the jobs on the board whenever it is woken.
import { POINT } from '../core/rating/places.ts'
import { parentPort, workerData } from 'node:worker_threads'
import { linearise } from '../core/rating/linear.ts'
import { BOARD, JOB, boardPlaces } from './crewBoard.ts'
import type { CrewBoard } from './crewBoard.ts'

const { flags, figures } = workerData as CrewBoard
parentPort!.postMessage('ready')
for (let turn = 0; ; turn++) {
  Atomics.wait(flags, BOARD.turn, turn)
  for (let i = 0; i < flags[BOARD.count]!; i++) {
    const { job, seen, jacobian } = boardPlaces(figures, i)
    const circumstances = {
      speed: job[JOB.speed]!,
      body: { massKg: job[JOB.massKg]!, diameterM: job[JOB.diameterM]! },
      densityKgM3: job[JOB.densityKgM3]!,
      midX: job[JOB.midX]!,
      spinRadps: job[JOB.spinRadps]!,
    }
    linearise(circumstances, job.subarray(JOB.point, JOB.point + POINT), seen, jacobian)
  }
  Atomics.store(flags, BOARD.done, turn + 1)
  Atomics.notify(flags, BOARD.done)
}
