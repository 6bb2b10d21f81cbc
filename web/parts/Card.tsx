import clsx from 'clsx'
import type { ReactNode, Ref } from 'react'
import { OtherVersion } from '../data/api.ts'
import type { AskedAnswer } from '../data/useAsked.ts'
import { Button } from './Button.tsx'

interface CardProps {
  readonly children: ReactNode
  readonly className?: string
  /** Names the card for those who cannot see it. */
  readonly label?: string
  /** The card scrolls: it can be focused, so that keys scroll it too. */
  readonly scrolls?: boolean
  readonly ref?: Ref<HTMLElement>
}

export function Card({ children, className, label, scrolls = false, ref }: CardProps) {
  return (
    <section
      ref={ref}
      aria-label={label}
      tabIndex={scrolls ? 0 : undefined}
      className={clsx('relative rounded-xl border border-rule bg-card', className)}
    >
      {children}
    </section>
  )
}

/** What a screen shows while its data is on the way. */
export function WaitingNote({ what }: { what: string }) {
  return (
    <p role="status" className="p-6 text-quiet">
      Reading {what} …
    </p>
  )
}

/** What a screen shows when its data cannot be had: what happened, what was kept, what to do. */
export function TroubleNote({ error }: { error: Error }) {
  return (
    <Card className="m-4 p-5">
      <h2 className="text-lead">This could not be read</h2>
      <p className="mt-1">{error.message}</p>
      {error instanceof OtherVersion ? (
        <Reload />
      ) : (
        <p className="mt-1 text-quiet">Nothing was changed. Try again in a moment.</p>
      )}
    </Card>
  )
}

/** Brings the page up to date. */
export const Reload = () => (
  <Button kind="primary" className="mt-3" onClick={() => location.reload()}>
    Reload the page
  </Button>
)

/** What stands where something that was asked of the worker has no answer: why, and a way to ask again. */
export function Unanswered({
  asked: { error, again },
}: {
  asked: Pick<AskedAnswer<unknown>, 'error' | 'again'>
}) {
  return (
    <p role="alert" className="text-accent">
      {error?.message}{' '}
      <button type="button" className="min-h-11 underline underline-offset-4" onClick={again}>
        Ask again
      </button>
    </p>
  )
}

/** A screen without content yet: what to do first, with one button. */
export function Empty({
  title,
  children,
  action,
}: {
  title: string
  children: ReactNode
  action?: ReactNode
}) {
  return (
    <div className="mx-auto max-w-md px-6 py-12 text-center">
      <h2 className="text-title">{title}</h2>
      <p className="mt-2 mb-5 text-quiet">{children}</p>
      {action}
    </div>
  )
}
