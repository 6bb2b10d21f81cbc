import clsx from 'clsx'
import type { ButtonHTMLAttributes, ReactNode } from 'react'

type Kind = 'primary' | 'plain' | 'quiet'

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly kind?: Kind
  /** Key that does the same, shown on the button. */
  readonly keyHint?: string
}

const LOOK: Record<Kind, string> = {
  primary:
    'bg-spruce text-on-spruce font-semibold border border-spruce hover:brightness-125 disabled:opacity-45',
  plain: 'bg-card text-ink font-medium border border-edge hover:bg-tint disabled:opacity-45',
  quiet:
    'text-ink font-medium border border-transparent underline decoration-edge underline-offset-4 hover:bg-tint disabled:opacity-45',
}

/** How a button looks, for links that look like one. */
export const buttonLook = (kind: Kind = 'plain', more = ''): string =>
  clsx(
    'hit inline-flex min-h-10 items-center justify-center gap-2 rounded-lg px-3.5 py-1.5 text-body disabled:cursor-not-allowed',
    LOOK[kind],
    more,
  )

export function Button({ kind = 'plain', keyHint, className, children, ...rest }: ButtonProps) {
  return (
    <button type="button" className={buttonLook(kind, className)} {...rest}>
      {children}
      {keyHint && <Key onDark={kind === 'primary'}>{keyHint}</Key>}
    </button>
  )
}

/** A key of the keyboard. */
export function Key({ children, onDark = false }: { children: ReactNode; onDark?: boolean }) {
  return (
    <kbd
      aria-hidden
      className={clsx(
        'rounded border px-1.5 font-mono text-note leading-5 font-medium max-md:hidden across:hidden',
        onDark ? 'border-on-spruce-quiet text-on-spruce' : 'border-edge bg-tint text-ink',
      )}
    >
      {children}
    </kbd>
  )
}
