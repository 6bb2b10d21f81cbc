import fs from 'node:fs'
import path from 'node:path'
import { expect } from 'chai'

const ROOT = path.resolve(import.meta.dirname, '../..')
/** Rows of the page, those that head a table and those under it aside: the term, and what its last column names. */
const rows = fs
  .readFileSync(path.join(ROOT, 'docs/words.md'), 'utf8')
  .split('\n')
  .filter((line) => line.startsWith('| ') && !/^\| (word|-+) /.test(line))
  .map((line) => {
    const cells = line.split('|').map((c) => c.trim())
    return { term: cells[1]!, named: [...cells.at(-2)!.matchAll(/`([^`]+)`/g)].map(([, name]) => name!) }
  })

describe('the page of words', () => {
  it('names for every term where it stands, and it stands there', () => {
    expect(rows.length).greaterThan(50)
    for (const { term, named } of rows) {
      const [file, name] = named
      expect(file, term).a('string')
      const text = fs.readFileSync(path.join(ROOT, file!), 'utf8')
      if (name !== undefined)
        expect(text, `${term}: ${name} in ${file}`).match(
          new RegExp(`export (const|type|interface|class|(async )?function) ${name}\\b`),
        )
    }
  })

  it('explains a term once', () => {
    const terms = rows.map((r) => r.term)
    expect(new Set(terms).size).equal(terms.length)
  })
})
