/** How an exported review is laid out: wide enough to read, narrow enough for a phone, and on paper. */
export const PAGE_STYLE = `
body.page { margin: 0; background: var(--ground); color: var(--ink); }
.page > main { max-width: 54rem; margin: 0 auto; padding: 1.5rem 1.1rem 4rem; }
.page h1 { font-size: 2rem; line-height: 2.4rem; margin: 0 0 .3rem; }
.page h2 { font-size: 1.35rem; line-height: 1.7rem; margin: 2rem 0 .5rem; }
.page .review-about { color: var(--quiet); margin: 0 0 1.2rem; }
.page figure { margin: 1rem 0; }
.page figure svg[role="img"] { max-width: 100%; height: auto; }
.page table { border-collapse: collapse; width: 100%; }
.page th, .page td { padding: .25rem .5rem; }
.page details { margin: .5rem 0; border: 1px solid var(--rule); border-radius: .5rem; padding: .4rem .7rem; background: var(--card); }
.page summary { cursor: pointer; font-weight: 600; }
.page .wide { overflow-x: auto; }
#reader { border: 1px solid var(--edge); border-radius: .7rem; background: var(--card); padding: 1rem; margin: 1.2rem 0; }
#reader h2 { margin: 0 0 .5rem; }
.reader-controls { display: flex; flex-wrap: wrap; gap: .6rem 1.4rem; align-items: center; margin-bottom: .8rem; }
.reader-controls label { max-width: 100%; min-width: 0; display: inline-flex; flex-wrap: wrap; align-items: center; gap: .5rem; min-height: 2.75rem; }
.reader-controls input[type="number"] { width: 5rem; }
.reader-controls input, .reader-controls select { font: inherit; color: inherit; background: var(--card); border: 1px solid var(--edge); border-radius: .4rem; padding: .3rem .5rem; max-width: 100%; min-width: 0; }
.reader-controls input[type="range"] { accent-color: var(--water); padding: 0; }
.reader-table { overflow-x: auto; }
.reader-table th, .reader-table td { text-align: right; white-space: nowrap; border-top: 1px solid var(--rule); }
.reader-table th:first-child { text-align: left; }
.reader-table thead th { font-weight: 400; color: var(--quiet); border-top: 0; }
.reader-wrong { color: var(--accent); margin: 0; }
.reader-note { color: var(--quiet); font-size: .85rem; }
@media print {
  body.page { background: none; }
  #reader { display: none; }
  .page > main { max-width: none; padding: 0; }
  .page h2, .page h3 { break-after: avoid; }
  .page figure, .page tr, .page li { break-inside: avoid; }
}
`
