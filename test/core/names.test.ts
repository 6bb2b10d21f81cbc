import { expect } from 'chai'
import fs from 'node:fs'
import path from 'node:path'

const ROOT = path.resolve(import.meta.dirname, '../..')
const EXPORTED = /^export (?:async )?(?:const|function\*?|class|interface|type) (\w+)/gm

/** A script takes a program, whole or by names. */
const TAKEN =
  /const (?:\{([^}]*)\}|(\w+)) = await import\(\s*pathToFileURL\(await bundleProgram\('([^']+)'\)\)/g

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

/** Names that a script takes out of programs of the project: listed where it takes one, or one by one of what it took whole. */
function askedBy(text: string, script: string) {
  return [...text.matchAll(TAKEN)].flatMap(([, list, whole, file]) => {
    const names = list
      ? list.split(',').map((name) => name.trim())
      : [...text.matchAll(new RegExp(`\\b${whole!}\\.(\\w+)`, 'g'))].map(([, name]) => name!)
    return names.filter(Boolean).map((name) => ({ script, name, file: file! }))
  })
}
/** What a program of the project offers, its own and what it hands on. */
function offeredBy(file: string): ReadonlySet<string> {
  const text = fs.readFileSync(path.join(ROOT, file), 'utf8')
  return new Set([
    ...[...text.matchAll(/^export (?:async )?(?:function|class|const) (\w+)/gm)].map(([, name]) => name!),
    ...[...text.matchAll(/^export \{([^}]*)\}/gm)].flatMap(([, list]) =>
      list!.split(',').map((name) => name.trim()),
    ),
  ])
}

describe('names', () => {
  it('are exported by one file each, so that a name says what it is wherever it is read', () => {
    const names = exported()
    expect(names.size).greaterThan(1000)
    const twice = [...names].filter(([, files]) => files.size > 1)
    expect(twice.map(([name, files]) => `${name}: ${[...files].join(', ')}`)).deep.equal([])
  })

  it('that scripts ask for, which no compiler reads, are there', () => {
    const asked = fs
      .readdirSync(path.join(ROOT, 'scripts'))
      .filter((f) => f.endsWith('.mjs'))
      .flatMap((script) => askedBy(fs.readFileSync(path.join(ROOT, 'scripts', script), 'utf8'), script))
    expect(asked.length).greaterThan(14)
    const missing = asked.filter(({ name, file }) => !offeredBy(file).has(name))
    expect(missing).deep.equal([])
  })
})
