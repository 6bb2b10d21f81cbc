import type { Plan } from '../../contract/trials.ts'
import type { Ask } from '../../core/plan/aims.ts'
import type { TrialView } from './hooks.ts'

/** What a plan asks, its discs by what a fit knows them by. */
export function askIn({ kind, pair }: Plan, codeOf: (discId: string) => string | undefined): Ask {
  const [a, b] = pair?.map(codeOf) ?? []
  return { kind, pair: a !== undefined && b !== undefined ? [a, b] : null }
}

/** What a trial asks; one without a plan asks which of its discs is more stable. */
export const askOf = ({ trial, discs }: TrialView): Ask =>
  trial.plan
    ? askIn(trial.plan, (id) => discs.find((d) => d.disc.id === id)?.disc.code)
    : { kind: 'molds', pair: null }
