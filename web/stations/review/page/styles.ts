import { dataAddress } from '../../../data/pictures.ts'

/** The theme a reader who wants it dark is given. */
const DARK = '[data-theme="dusk"]'

const isLatin = (rule: CSSFontFaceRule) =>
  /U\+0{1,4}-0{0,2}FF/i.test(rule.style.getPropertyValue('unicode-range') || 'U+0000-00FF')

/** A font face with its file inside; undefined where it cannot be read: the page then has the reader’s own fonts. */
async function withFile(rule: CSSFontFaceRule, base: string): Promise<string | undefined> {
  const [, address] = /url\("?([^")]+)"?\)/.exec(rule.style.getPropertyValue('src')) ?? []
  if (address === undefined) return undefined
  try {
    const answer = await fetch(new URL(address, base))
    if (!answer.ok) return undefined
    const inside = await dataAddress(await answer.blob())
    return rule.cssText.replace(/url\("?[^")]+"?\)/, `url("${inside}")`)
  } catch {
    return undefined
  }
}

/** The fonts of the app, their files inside. */
export async function fontFaces(): Promise<string> {
  const faces = [...document.styleSheets].flatMap((sheet) =>
    [...sheet.cssRules].flatMap((rule) =>
      rule instanceof CSSFontFaceRule && isLatin(rule) ? [{ rule, base: sheet.href ?? location.href }] : [],
    ),
  )
  const texts = await Promise.all(faces.map(({ rule, base }) => withFile(rule, base)))
  return texts.filter((t) => t !== undefined).join('\n')
}

/** The app’s style as one text that stands alone: fonts inside, dark where the reader wants it dark. */
export async function ownStyle(): Promise<string> {
  const rules = [...document.styleSheets]
    .flatMap((sheet) => [...sheet.cssRules])
    .filter((rule) => !(rule instanceof CSSFontFaceRule))
  const dark = rules.find(
    (rule): rule is CSSStyleRule =>
      rule instanceof CSSStyleRule && rule.selectorText.replaceAll("'", '"') === DARK,
  )
  return [
    await fontFaces(),
    ...rules.map((rule) => rule.cssText),
    `@media screen and (prefers-color-scheme: dark) { :root { ${dark?.style.cssText ?? ''} } }`,
  ].join('\n')
}
