import clsx from 'clsx'
import type { ReactNode } from 'react'
import type { Statement } from '../../core/judge/statements.ts'
import { percent } from '../data/units.ts'

interface SentencesProps {
  readonly list: readonly Statement[]
  readonly working?: boolean
  /** Stands behind each, to be opened. */
  readonly why?: (s: Statement) => ReactNode
}

/** Conclusions as sentences, each with its probability. */
export function Sentences({ list, working = false, why }: SentencesProps) {
  return (
    <ul
      className={clsx('divide-y divide-rule transition-opacity', working && 'opacity-60')}
      aria-live="polite"
      data-testid="sentences"
    >
      {list.map((s) => (
        <li
          key={`${s.kind} ${[...s.discs].sort().join(' ')}`}
          className="grid grid-cols-[3.4rem_1fr] gap-x-3 py-2"
        >
          <span className={clsx('figure text-lead', s.settled ? 'text-ink' : 'text-quiet')}>
            {s.probability === undefined ? '–' : percent(s.probability)}
          </span>
          <div>
            <div className="leading-snug font-semibold">{s.text}</div>
            <div className="text-note text-quiet">
              {s.detail} {why?.(s)}
            </div>
          </div>
        </li>
      ))}
    </ul>
  )
}
