import type { Plugin } from 'vite'
export function bundleReader(): Promise<string>
export function readerPlugin(): Plugin
