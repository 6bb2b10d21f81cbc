declare module '@joplin/turndown-plugin-gfm' {
  import type Turndown from 'turndown'
  /** Tables, struck words and task lists. */
  export const gfm: Turndown.Plugin
}
