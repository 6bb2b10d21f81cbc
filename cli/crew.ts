import { once } from 'node:events'
import { Worker } from 'node:worker_threads'
import { onThisThread } from '../core/rating/crew.ts'
import type { Crew } from '../core/rating/crew.ts'
import { BOARD, emptyBoard, JOB, MOST_JOBS, boardPlaces } from './crewBoard.ts'

/** Fewer jobs are flown sooner than somebody is woken. */
const WORTH_WAKING = 64

/** A crew of two threads, which share the jobs of every round; `end` lets the second one go. */
export async function crewOfTwo(): Promise<{ readonly crew: Crew; readonly end: () => Promise<void> }> {
  const { flags, figures } = emptyBoard()
  const worker = new Worker(new URL('./crew.worker.mjs', import.meta.url), { workerData: { flags, figures } })
  // a thread that is not up yet could not come up while this one waits for it
  await once(worker, 'message')
  worker.unref()
  let turn = 0
  const crew: Crew = (jobs) => {
    if (jobs.length < WORTH_WAKING) return onThisThread(jobs)
    const theirs = jobs.slice(0, Math.min(MOST_JOBS, Math.floor(jobs.length / 2)))
    theirs.forEach((j, i) => {
      const { job } = boardPlaces(figures, i)
      job[JOB.speed] = j.speed
      job[JOB.massKg] = j.body.massKg
      job[JOB.diameterM] = j.body.diameterM
      job[JOB.densityKgM3] = j.densityKgM3
      job[JOB.midX] = j.midX
      job[JOB.spinRadps] = j.spinRadps
      job.set(j.at, JOB.point)
    })
    flags[BOARD.count] = theirs.length
    turn++
    Atomics.store(flags, BOARD.turn, turn)
    Atomics.notify(flags, BOARD.turn)
    onThisThread(jobs.slice(theirs.length))
    Atomics.wait(flags, BOARD.done, turn - 1)
    theirs.forEach((j, i) => {
      const { job, seen, jacobian } = boardPlaces(figures, i)
      j.at.set(job.subarray(JOB.point))
      j.seen.set(seen)
      j.jacobian.set(jacobian)
    })
  }
  return { crew, end: async () => void (await worker.terminate()) }
}
