// The second thread of a crew: flies the jobs on the board whenever it is woken.
import { parentPort, workerData } from 'node:worker_threads'
import { linearise, POINT } from '../core/rating/linear.ts'
import { BOARD, JOB, placesOf } from './crewBoard.ts'
import type { CrewBoard } from './crewBoard.ts'

const { flags, figures } = workerData as CrewBoard
parentPort!.postMessage('ready')
for (let turn = 0; ; turn++) {
  Atomics.wait(flags, BOARD.turn, turn)
  for (let i = 0; i < flags[BOARD.count]!; i++) {
    const { job, seen, jacobian } = placesOf(figures, i)
    linearise(
      job[JOB.speed]!,
      { massKg: job[JOB.massKg]!, diameterM: job[JOB.diameterM]! },
      job[JOB.densityKgM3]!,
      job.subarray(JOB.point, JOB.point + POINT),
      job[JOB.midX]!,
      seen,
      jacobian,
    )
  }
  Atomics.store(flags, BOARD.done, turn + 1)
  Atomics.notify(flags, BOARD.done)
}
