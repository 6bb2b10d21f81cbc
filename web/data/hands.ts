import { at } from '../../contract/api.ts'
import { useEffect, useMemo } from 'react'
import { heldByOthers, yieldedTo } from '../../core/plan/hands.ts'
import type { HandToThrow as HeldThrow } from '../../core/plan/hands.ts'
import type { Protocol } from '../../core/plan/order.ts'
import type { Held } from '../../contract/news.ts'
import { send } from './api.ts'
import { useRead } from './hooks.ts'
import { deviceId } from './device.ts'

const handsAt = (id: string) => at('GET /api/trials/:id/hands', { id })
/** What other devices on a trial are about to throw. */
export interface OthersHands {
  /** Left to them. */
  readonly held: readonly HeldThrow[]
  /** Of these, the same throw as this device holds, held before. */
  readonly yielded: readonly HeldThrow[]
}
const NOBODYS: OthersHands = { held: [], yielded: [] }

export function useOthersHands(trialId: string, protocol: Protocol): OthersHands {
  const { data } = useRead(handsAt(trialId), { shouldRetryOnError: false })
  return useMemo(() => {
    if (!data || data.length === 0) return NOBODYS
    const hands = data.map(({ deviceId: device, held, since }) => ({
      device,
      since: Date.parse(since),
      disc: held.discId,
      hyzerDeg: held.hyzerDeg,
      stroke: held.stroke,
      power: held.power,
    }))
    const device = deviceId()
    return {
      held: heldByOthers(hands, device, protocol),
      yielded: yieldedTo(hands, device, protocol),
    }
  }, [data, protocol])
}

/** Lets other devices on a trial know what this one is about to throw; nothing while it does not log. */
export function useHolding(trialId: string, held: Held | undefined): void {
  const told = held ? JSON.stringify(held) : undefined
  useEffect(() => {
    if (told === undefined) return
    const tell = () =>
      // without a network nobody is told, and nobody has to be
      void send(at('PUT /api/trials/:id/hand', { id: trialId }), {
        deviceId: deviceId(),
        held: JSON.parse(told) as Held,
      }).catch(() => {})
    tell()
    const timer = setInterval(tell, 5 * 60_000)
    return () => clearInterval(timer)
  }, [trialId, told])
  useEffect(
    () => () =>
      void send(at('PUT /api/trials/:id/hand', { id: trialId }), {
        deviceId: deviceId(),
        held: null,
      }).catch(() => {}),
    [trialId],
  )
}
