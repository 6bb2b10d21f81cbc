import { Dialog as Headless, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react'
import { X } from 'lucide-react'
import { useEffect, useRef } from 'react'
import type { FocusEvent, ReactNode, RefObject } from 'react'

interface DialogProps {
  readonly open: boolean
  readonly onClose: () => void
  readonly title: string
  readonly children: ReactNode
  readonly wide?: boolean
}

/** By then a list that led to a dialog has closed and given the focus back to itself, ms. */
const CLOSED_MS = [0, 30, 80, 160]

/** Keeps the focus where a dialog put it first, though what led there takes it back as it closes. */
function useFocusKept(panel: RefObject<HTMLElement | null>) {
  const first = useRef<HTMLElement>(undefined)
  useEffect(() => {
    const timers = CLOSED_MS.map((ms) =>
      setTimeout(() => {
        if (!panel.current?.contains(document.activeElement)) first.current?.focus()
      }, ms),
    )
    return () => timers.forEach(clearTimeout)
  }, [panel])
  return (e: FocusEvent<HTMLElement>) => void (first.current ??= e.target)
}

/** What is in a dialog that is open. */
function Panel({ title, onClose, wide, children }: Omit<DialogProps, 'open'>) {
  const panel = useRef<HTMLDivElement>(null)
  const onFocus = useFocusKept(panel)
  return (
    <DialogPanel
      ref={panel}
      onFocus={onFocus}
      className={`mx-auto rounded-xl border border-rule bg-card p-5 shadow-lg ${wide ? 'max-w-3xl' : 'max-w-xl'}`}
    >
      <div className="mb-3 flex items-start justify-between gap-4">
        <DialogTitle className="text-title">{title}</DialogTitle>
        <button
          type="button"
          aria-label="Close"
          onClick={onClose}
          className="-m-1 grid size-10 shrink-0 place-items-center rounded-lg hover:bg-tint max-md:size-11"
        >
          <X size={20} aria-hidden />
        </button>
      </div>
      {children}
    </DialogPanel>
  )
}

export function Dialog({ open, onClose, title, children, wide = false }: DialogProps) {
  return (
    <Headless open={open} onClose={onClose} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-black/45" />
      <div className="fixed inset-0 overflow-y-auto p-3 md:p-8">
        <Panel {...{ title, onClose, wide }}>{children}</Panel>
      </div>
    </Headless>
  )
}
