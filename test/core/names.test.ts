import { expect } from 'chai'
import fs from 'node:fs'
import path from 'node:path'

const ROOT = path.resolve(import.meta.dirname, '../..')
const EXPORTED = /^export (?:async )?(?:const|function\*?|class|interface|type) (\w+)/gm

/** `const { a, b } = await import('../server/x.ts')` */
const ASKED = /\{ ([\w, ]+) \} = await import\('([^']+\.ts)'\)/g

/** Names that code exports, each with the files that do. */
function exported(): Map<string, Set<string>> {
  const names = new Map<string, Set<string>>()
  for (const part of ['core', 'contract', 'server', 'web', 'cli', 'demo'])
    for (const file of fs.readdirSync(path.join(ROOT, part), { recursive: true, encoding: 'utf8' })) {
      if (!/(?<!\.d)\.tsx?$/.test(file)) continue
      const text = fs.readFileSync(path.join(ROOT, part, file), 'utf8')
      for (const [, name] of text.matchAll(EXPORTED))
        names.set(name!, (names.get(name!) ?? new Set()).add(path.join(part, file)))
    }
  return names
}

describe('names', () => {
  it('are exported by one file each, so that a name says what it is wherever it is read', () => {
    const names = exported()
    expect(names.size).greaterThan(1000)
    const twice = [...names].filter(([, files]) => files.size > 1)
    expect(twice.map(([name, files]) => `${name}: ${[...files].join(', ')}`)).deep.equal([])
  })

  it('that scripts ask for, which no compiler reads, are there', () => {
    const names = exported()
    const asked = fs
      .readdirSync(path.join(ROOT, 'scripts'))
      .filter((f) => f.endsWith('.mjs'))
      .map((f) => path.join('scripts', f))
      .flatMap((script) =>
        [...fs.readFileSync(path.join(ROOT, script), 'utf8').matchAll(ASKED)].flatMap(([, list, from]) =>
          list!.split(',').map((name) => ({ script, name: name.trim(), file: path.join('scripts', from!) })),
        ),
      )
    expect(asked.length).greaterThan(10)
    const missing = asked.filter(({ name, file }) => !names.get(name)?.has(file))
    expect(missing).deep.equal([])
  })
})
