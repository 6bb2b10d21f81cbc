import fs from 'node:fs'
import path from 'node:path'
import { expect } from 'chai'

const ROOT = path.resolve(import.meta.dirname, '../..')
const pages = [
  'README.md',
  ...fs
    .readdirSync(path.join(ROOT, 'docs'), { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.md'))
    .map((f) => path.join('docs', f)),
]
/** Files and folders of the project that a page names. */
const named = (text: string): string[] =>
  [...text.matchAll(/`((?:core|contract|server|web|demo|cli|test|scripts|docs)\/[\w./-]+)`/g)].map(
    (m) => m[1]!,
  )

describe('the pages of the project', () => {
  it('name files that are there', () => {
    const all = pages.map((page) => ({ page, names: named(fs.readFileSync(path.join(ROOT, page), 'utf8')) }))
    expect(all.reduce((n, { names }) => n + names.length, 0)).greaterThan(60)
    for (const { page, names } of all)
      for (const name of names)
        expect(fs.existsSync(path.join(ROOT, name)), `${name}, in ${page}`).equal(true)
  })

  it('link to pages and pictures that are there', () => {
    for (const page of pages) {
      const text = fs.readFileSync(path.join(ROOT, page), 'utf8')
      for (const [, to] of text.matchAll(/\]\((?!https?:|#|mailto:)([^)#\s]+)/g))
        expect(fs.existsSync(path.join(ROOT, path.dirname(page), to!)), `${to}, in ${page}`).equal(true)
    }
  })
})
