import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import clsx from 'clsx'
import { Check, ChevronDown } from 'lucide-react'
import { useId } from 'react'
import type { ReactNode } from 'react'
import { withCode } from '../../contract/naming.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import { Labelled, toldBy } from './Labelled.tsx'
import type { LabelledProps } from './Labelled.tsx'

export interface SelectOption<T> {
  readonly value: T
  readonly words: ReactNode
}

/** Choices that are their own words. */
export const plainOptions = <T extends string>(list: readonly T[]): SelectOption<T>[] =>
  list.map((value) => ({ value, words: value }))

/** Options that are called as their table says. */
export const wordedOptions = <T extends string>(words: Readonly<Record<T, string>>): SelectOption<T>[] =>
  (Object.keys(words) as T[]).map((value) => ({ value, words: words[value] }))

/** Discs of a trial, as they are called in it. */
export const discOptions = (
  discs: readonly ShelvedDisc[],
  name: (code: string) => string,
): SelectOption<string>[] =>
  discs.map((d) => ({ value: d.disc.id, words: withCode(d.disc.code, name(d.disc.code)) }))

const LOOKS = {
  box: 'min-h-10 w-full justify-between border-edge bg-card py-1 pr-2 pl-2.5 max-md:min-h-11',
  line: 'min-h-8 justify-between border-transparent bg-transparent px-1.5 hover:border-edge focus:border-edge max-md:min-h-11',
  bare: 'min-h-9 w-full border-transparent bg-transparent hover:bg-tint max-md:min-h-11',
} as const

interface SelectProps<T> extends LabelledProps {
  /** What is none of the options shows the placeholder. */
  readonly value: T | null | undefined
  readonly options: readonly SelectOption<T>[]
  readonly onChange: (value: T) => void
  readonly placeholder?: string
  readonly disabled?: boolean | undefined
  /** A box among others, or words in a line that become a box when they are pointed at. */
  readonly look?: keyof typeof LOOKS
  /** What stands in the box instead of what is chosen; nothing else says that it can be changed. */
  readonly face?: ReactNode
  readonly autoFocus?: boolean | undefined
  /** Added to the box itself. */
  readonly boxClass?: string | undefined
}

/** One of many; what is chosen is said in full, over two lines where it must. */
export function Select<T>({
  value,
  options,
  onChange,
  placeholder = '',
  disabled = false,
  look = 'box',
  autoFocus = false,
  boxClass,
  face,
  ...labelled
}: SelectProps<T>) {
  const id = useId()
  const chosen = options.find((o) => o.value === (value ?? null))
  return (
    <Labelled {...labelled} id={id}>
      <Listbox value={value ?? null} onChange={(v) => onChange(v as T)} disabled={disabled}>
        <ListboxButton
          id={id}
          autoFocus={autoFocus}
          aria-labelledby={`${id}-label ${id}`}
          aria-invalid={labelled.error !== undefined}
          aria-describedby={toldBy(labelled, id)}
          className={clsx(
            'flex items-center gap-1.5 rounded-lg border text-left text-ink disabled:opacity-40',
            LOOKS[look],
            boxClass ?? (look === 'box' && 'text-body'),
          )}
        >
          {face ?? (
            <span className={clsx('min-w-0', chosen ? '' : 'text-quiet')}>
              {chosen?.words ?? placeholder}
            </span>
          )}
          <ChevronDown size={look === 'bare' ? 13 : 16} aria-hidden className="shrink-0 text-quiet" />
        </ListboxButton>
        <ListboxOptions
          anchor="bottom start"
          // a letter looks for a choice, and is no key of the screen meanwhile
          onKeyDown={(e) => e.stopPropagation()}
          className="z-50 min-w-(--button-width) rounded-lg border border-edge bg-card py-1 shadow-lg outline-none [--anchor-gap:4px] [--anchor-max-height:24rem] [--anchor-padding:8px]"
        >
          {options.map((o, i) => (
            <ListboxOption
              key={i}
              value={o.value}
              className="group flex min-h-9 max-w-[min(26rem,calc(100vw-2rem))] cursor-pointer items-center gap-2 px-2.5 py-1 text-body data-focus:bg-tint max-md:min-h-11"
            >
              <Check size={16} aria-hidden className="invisible shrink-0 group-data-selected:visible" />
              <span>{o.words}</span>
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </Labelled>
  )
}
