/** Characters that XML 1.0 has no place for, however they are written (section 2.2 of the recommendation). */
// eslint-disable-next-line no-control-regex -- these are what is looked for
const NOT_XML = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]|\p{Surrogate}/gu

/** A text without what no XML file may hold. */
export const plainXml = (text: string): string => text.replaceAll(NOT_XML, '')
