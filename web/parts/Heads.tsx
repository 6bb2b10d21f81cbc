/** Heads of a table of figures: the first names the rows, the figures of the others stand to the right. */
export const Heads = ({ names }: { names: readonly string[] }) => (
  <thead className="text-note text-quiet">
    <tr>
      {names.map((name, i) => (
        <th key={name} className={i === 0 ? 'font-normal' : 'px-2 text-right font-normal'}>
          {name}
        </th>
      ))}
    </tr>
  </thead>
)
