import type { Answer } from '../../../core/judge/answers/answerOf.ts'

/** What else can be said, and what cannot be said yet. */
export function Said({ answer: { besides, open } }: { answer: Answer }) {
  return (
    <>
      {besides.length > 0 && (
        <ul>
          {besides.map((b) => (
            <li key={b} className="border-t border-rule py-1.5 first:border-0 first:pt-0">
              {b.replace(/[^.]$/, '$&.')}
            </li>
          ))}
        </ul>
      )}
      {open.length > 0 && (
        <>
          <h2 className="mt-3 text-note font-semibold text-quiet">Not settled</h2>
          <ul>
            {open.map((o) => (
              <li key={o} className="border-t border-rule py-1.5 text-quiet first:border-0">
                {o.replace(/[^.]$/, '$&.')}
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  )
}
