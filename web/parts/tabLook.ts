import clsx from 'clsx'

/** How a link to a part of a screen looks, among the others; and the row they stand in. */
export const tabLook = (here: boolean): string =>
  clsx(
    'hit flex min-h-10 items-center border-b-3 px-2.5 font-medium whitespace-nowrap',
    here ? 'border-water text-ink' : 'border-transparent text-quiet hover:bg-tint',
  )
export const TAB_ROW = 'flex gap-1 border-b border-rule'
export const TAB_NAV = '-mx-3 overflow-x-auto px-3 md:mx-0 md:px-0'
