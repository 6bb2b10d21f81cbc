import type { MeasuringMethod } from '../../core/throw/method.ts'

/** How landings are measured: as it is chosen, how well, and as landings are called by it. */
export const METHODS: Readonly<
  Record<MeasuringMethod, { readonly words: string; readonly error: string; readonly landings: string }>
> = {
  eye: { words: 'by eye', error: '± 1 m', landings: 'judged by eye' },
  paced: { words: 'paced', error: '± 3 %', landings: 'paced' },
  ranged: { words: 'range finder', error: '± 0.5 m', landings: 'measured by range finder' },
  taped: { words: 'tape', error: '± 0.2 m', landings: 'taped' },
}
/** As it is chosen: “paced, ± 3 %”. */
export const methodWords = (method: MeasuringMethod): string =>
  `${METHODS[method].words}, ${METHODS[method].error}`
