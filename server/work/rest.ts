import { performance } from 'node:perf_hooks'
import v8 from 'node:v8'
import vm from 'node:vm'

/** So often it is looked whether this thread rests, ms. */
const LOOKED_MS = 5000
/** It rests where it used less than that of the time. */
const RESTING = 0.05
/** What it held after it last gave memory back, and this much more, is worth giving back again, bytes. */
const WORTH = 16_000_000

/**
 * Gives memory back while a thread rests. By itself the engine takes what a machine has before it looks for what is no longer
 * needed, and a thread with nothing to do never looks: what a busy hour took would be held for days.
 *
 * @returns how to stop
 */
export function givesBackAtRest(): () => void {
  v8.setFlagsFromString('--expose-gc')
  const collect = vm.runInNewContext('gc') as () => void
  let before = performance.eventLoopUtilization()
  let held = 0
  const timer = setInterval(() => {
    const now = performance.eventLoopUtilization()
    const { utilization } = performance.eventLoopUtilization(now, before)
    before = now
    if (utilization > RESTING || v8.getHeapStatistics().total_heap_size < held + WORTH) return
    collect()
    held = v8.getHeapStatistics().total_heap_size
    before = performance.eventLoopUtilization()
  }, LOOKED_MS)
  timer.unref()
  return () => clearInterval(timer)
}
