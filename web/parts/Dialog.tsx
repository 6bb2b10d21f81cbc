import { Dialog as Headless, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react'
import { X } from 'lucide-react'
import type { ReactNode } from 'react'

interface DialogProps {
  readonly open: boolean
  readonly onClose: () => void
  readonly title: string
  readonly children: ReactNode
  readonly wide?: boolean
}

export function Dialog({ open, onClose, title, children, wide = false }: DialogProps) {
  return (
    <Headless open={open} onClose={onClose} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-black/45" />
      <div className="fixed inset-0 overflow-y-auto p-3 md:p-8">
        <DialogPanel
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
      </div>
    </Headless>
  )
}
