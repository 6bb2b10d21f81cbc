import { millisecondsInDay } from 'date-fns/constants'

/** From this share of full power on a throw loads the arm fully. */
export const FULL_POWER_FROM = 0.9

/** What an arm may take. A plan does not silently exceed it; this is no medical advice. */
export interface ArmLimits {
  readonly throwsADay: number
  readonly fullPowerADay: number
  readonly throwsAWeek: number
  readonly fullPowerAWeek: number
}

/** Until somebody sets their own: an easy day for a grown arm that throws every week. */
export const USUAL_LIMITS: ArmLimits = {
  throwsADay: 120,
  fullPowerADay: 80,
  throwsAWeek: 300,
  fullPowerAWeek: 180,
}

/** What one arm threw on a calendar day (ISO). */
export interface ThrownDay {
  readonly day: string
  readonly throws: number
  readonly fullPower: number
}

/** What is left of a day and of the seven days that end with it; never below zero. */
export interface ArmLeft {
  readonly throws: number
  readonly fullPower: number
  /** Which limit binds. */
  readonly throwsBy: 'day' | 'week'
  readonly fullPowerBy: 'day' | 'week'
}

const WEEK_DAYS = 7

/** Throws an arm has left on a day, by what it threw on it and in the six days before. */
export function armLeft(limits: ArmLimits, thrown: readonly ThrownDay[], day: string): ArmLeft {
  const end = Date.parse(day)
  const ago = (d: ThrownDay) => Math.round((end - Date.parse(d.day)) / millisecondsInDay)
  const sum = (key: 'throws' | 'fullPower', days: number) =>
    thrown.filter((d) => ago(d) >= 0 && ago(d) < days).reduce((n, d) => n + d[key], 0)
  const left = (key: 'throws' | 'fullPower', aDay: number, aWeek: number) => {
    const today = Math.max(0, aDay - sum(key, 1))
    const week = Math.max(0, aWeek - sum(key, WEEK_DAYS))
    return { left: Math.min(today, week), by: today <= week ? ('day' as const) : ('week' as const) }
  }
  const all = left('throws', limits.throwsADay, limits.throwsAWeek)
  const full = left('fullPower', limits.fullPowerADay, limits.fullPowerAWeek)
  return { throws: all.left, throwsBy: all.by, fullPower: full.left, fullPowerBy: full.by }
}
