import { deviation } from 'd3'
import { useMemo } from 'react'
import { FATES } from '../../core/lab/field.ts'
import { labFlightOf } from '../../core/lab/flight.ts'
import type { Setup } from '../../core/lab/setup.ts'
import type { LabFlown, LabSetup } from '../../contract/lab.ts'
import { useAsked } from '../data/useAsked.ts'
import { askCloud, askClouds } from '../workers/lab.ts'
import type { FlownCloud } from '../workers/lab.ts'
import { flownAs, useWho } from './useDiscs.ts'
import type { Discs } from './useDiscs.ts'
import type { ShownFlight } from './Views.tsx'
import { looksOf } from '../strip/hues.ts'

/** A throw that is flown now. */
export interface FlownThrow extends ShownFlight {
  readonly brief: string
  readonly setup: Setup
  readonly disc: LabFlown
}

/** Clouds of what is not pulled come once the hand rests, ms. */
const RESTS_MS = 120

/** What comes of a setup: its flights, where throws scatter, and how much field that takes. */
export function useFlown(setup: LabSetup, named: Discs['named']) {
  const who = useWho(setup)
  const flown = useMemo(() => setup.discs.map(named), [setup.discs, named])
  const known = useMemo(() => flown.flatMap((f) => f ?? []), [flown])
  const look = useMemo(() => looksOf(known.map((f) => f.brief)), [known])
  const first = useMemo(
    () => flownAs({ disc: setup.discs[0]!, throw: setup.throw, weather: setup.weather }, named, who),
    [setup.discs, setup.throw, setup.weather, named, who],
  )
  const from = useMemo(
    () => (setup.before ? flownAs(setup.before, named, who) : undefined),
    [setup.before, named, who],
  )
  const flights = useMemo(
    () =>
      setup.discs.flatMap((disc): FlownThrow[] => {
        const is = named(disc)
        const one = flownAs({ disc, throw: setup.throw, weather: setup.weather }, named, who)
        const flight = one && labFlightOf(one)
        return is && flight
          ? [{ name: is.name, brief: is.brief, look: look(is.brief), flight, setup: one, disc }]
          : []
      }),
    [setup.discs, setup.throw, setup.weather, named, who, look],
  )
  const before = useMemo((): ShownFlight | undefined => {
    const flight = from && labFlightOf(from)
    return flight && { name: named(setup.before!.disc)!.name, look: 0, flight }
  }, [from, named, setup.before])
  const cloud = useAsked(
    first ? JSON.stringify([first, setup.obstacles]) : null,
    () => askCloud(first!, setup.obstacles),
    // a chance among other obstacles says nothing of these
    { about: setup.obstacles.map((o) => o.kind).join(), inTurn: true },
  )
  // the other discs, and what it is compared with, after the one that follows the hand
  const others = useMemo(
    () => [...flights.slice(1).map((f) => f.setup), ...(from ? [from] : [])],
    [flights, from],
  )
  const more = useAsked(
    others.length > 0 ? JSON.stringify([others, setup.obstacles]) : null,
    () => askClouds(others, setup.obstacles),
    {
      about: JSON.stringify([others.map((o) => o.disc), setup.obstacles.map((o) => o.kind)]),
      pauseMs: RESTS_MS,
      inTurn: true,
    },
  )
  const clouds = useMemo(() => {
    const beside = more.value ?? []
    return {
      of: [cloud.value, ...beside.slice(0, flights.length - 1)],
      before: from && beside.at(-1),
    }
  }, [cloud.value, more.value, flights.length, from])
  const spread = useMemo(() => cloud.value && cloudSpread(cloud.value), [cloud.value])
  const reach = useMemo(() => {
    const sign = setup.fade === 'left' ? 1 : -1
    const all = [...flights, ...(before ? [before] : [])]
    const { alongM, asideM } = spread ?? { alongM: 4, asideM: 4 }
    const lefts = [
      ...all.flatMap((f) => f.flight.sideM.map((s) => sign * s)),
      ...setup.obstacles.flatMap((o) =>
        'at' in o ? [sign * o.at.sideM + o.radiusM, sign * o.at.sideM - o.radiusM] : [],
      ),
    ]
    const downs = [
      ...all.map((f) => f.flight.landed.downM),
      ...setup.obstacles.flatMap((o) => ('at' in o ? [o.at.downM + o.radiusM] : [])),
    ]
    return {
      down: 10 * Math.ceil((Math.max(40, ...downs) + 2 * alongM) / 10),
      left: 5 * Math.ceil(Math.max(14, ...lefts.map((l) => l + 1.4 * asideM)) / 5),
      right: 5 * Math.ceil(Math.max(14, ...lefts.map((l) => 1.4 * asideM - l)) / 5),
    }
  }, [flights, before, setup.obstacles, setup.fade, spread])
  return { who, known, look, first, from, flights, before, cloud, clouds, spread, reach }
}

/** How far two throws in three that get through lie from their middle, along and across, m. */
export function cloudSpread({ down, side, fate }: FlownCloud) {
  const through = (of: Float32Array) => of.filter((_, i) => FATES[fate[i]!] !== 'stopped')
  const sd = (of: Float32Array) => deviation(through(of)) ?? 0
  return { alongM: sd(down), asideM: sd(side) }
}
