import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { Download } from 'lucide-react'
import type { RefObject } from 'react'
import { writeCsv } from '../../core/formats/csvCells.ts'
import { drawingsIn, stackedSvg } from '../data/drawings.ts'
import { buttonLook } from './Button.tsx'
import { sayWrong } from '../data/say.ts'

interface SaveViewProps {
  /** What is saved. */
  readonly of: RefObject<HTMLElement | null>
  /** What the file is called, without its ending. */
  readonly name: string
}

/** Twice as fine as the screen, so that it can be printed. */
const FINE = 2

/** Links and buttons that stand about a view are not part of it. */
const isContent = (node: HTMLElement) => node.dataset?.['about'] !== 'view'
const words = (e: HTMLElement) => e.innerText.replace(/\s+/g, ' ').trim()

/** Every table of a view under what it is headed by; figures as they are shown. */
function tablesOf(view: HTMLElement): string {
  const rows = [...view.querySelectorAll('table')].flatMap((table, i) => {
    const heading = table.closest('section')?.getAttribute('aria-label')
    return [
      ...(i > 0 ? [[]] : []),
      ...(heading ? [[heading]] : []),
      ...[...table.rows].map((row) => [...row.cells].filter(isContent).map(words)),
    ]
  })
  // a table that is wider than the first one must not lose its columns
  const width = Math.max(0, ...rows.map((r) => r.length))
  const [head = [], ...rest] = rows.map((r) => Array.from({ length: width }, (_, i) => r[i] ?? ''))
  return writeCsv(head, rest)
}

function save(address: string, name: string): void {
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
}

/** Saves a view as a picture, as a drawing that can be scaled, or as the figures of its tables. */
export function SaveView({ of, name }: SaveViewProps) {
  const ground = () => getComputedStyle(document.body).backgroundColor
  const saveText = (text: string, kind: string, ending: string) => {
    const address = URL.createObjectURL(new Blob([text], { type: kind }))
    save(address, `${name}.${ending}`)
    URL.revokeObjectURL(address)
  }
  const drawing = () => {
    const drawings = of.current ? drawingsIn(of.current) : []
    if (drawings.length > 0) saveText(stackedSvg(drawings), 'image/svg+xml', 'svg')
    else sayWrong('This view draws nothing; its tables can be saved as figures.')
  }
  const picture = async () => {
    if (!of.current) return
    try {
      // only who saves a picture needs what draws it
      const { toPng } = await import('html-to-image')
      save(
        await toPng(of.current, { pixelRatio: FINE, backgroundColor: ground(), filter: isContent }),
        `${name}.png`,
      )
    } catch {
      sayWrong('The picture could not be drawn. A screenshot of the page shows the same.')
    }
  }
  const figures = () => {
    if (of.current) saveText(tablesOf(of.current), 'text/csv;charset=utf-8', 'csv')
  }
  const item = 'block w-full rounded-md px-3 py-2 text-left data-focus:bg-tint max-md:min-h-11'
  return (
    <Menu>
      <MenuButton className={buttonLook('plain', 'shrink-0')}>
        <Download size={16} aria-hidden /> <span className="max-md:sr-only">Save</span>
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-30 mt-1 w-64 rounded-lg border border-rule bg-card p-1 shadow-lg"
      >
        <MenuItem>
          <button type="button" className={item} onClick={() => void picture()}>
            As a picture (PNG)
          </button>
        </MenuItem>
        <MenuItem>
          <button type="button" className={item} onClick={drawing}>
            Its drawings (SVG)
          </button>
        </MenuItem>
        <MenuItem>
          <button type="button" className={item} onClick={figures}>
            The figures of its tables (CSV)
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  )
}
