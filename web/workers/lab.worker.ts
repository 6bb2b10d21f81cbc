import { expose, transfer } from 'comlink'
import { anglesOf } from '../../core/lab/angles.ts'
import type { Angles } from '../../core/lab/angles.ts'
import { CLOUD, cloudOf } from '../../core/lab/cloud.ts'
import type { Cloud } from '../../core/lab/cloud.ts'
import type { Obstacle } from '../../core/lab/field.ts'
import { findThrows } from '../../core/lab/find.ts'
import type { ThrowsFound, Search } from '../../core/lab/find.ts'
import type { Setup } from '../../core/lab/setup.ts'

/** Flies what is too much to fly between two pictures. */
const lab = {
  cloud(
    setup: Setup,
    obstacles: readonly Obstacle[],
    part: { readonly place: number; readonly of: number },
  ): Cloud {
    const cloud = cloudOf(setup, obstacles, CLOUD, part)
    const { down, side, fate, by } = cloud
    return transfer(
      cloud,
      [down, side, fate, by].map((a) => a.buffer as ArrayBuffer),
    )
  },
  angles: (setup: Setup): Angles => anglesOf(setup),
  find: (search: Search): ThrowsFound => findThrows(search),
}

export type LabWorker = typeof lab
expose(lab)
