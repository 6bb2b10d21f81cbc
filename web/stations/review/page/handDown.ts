/** Gives a file to whoever sits there. */
export function handDown(file: Blob, name: string): void {
  const address = URL.createObjectURL(file)
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  // the browser takes it up a moment later
  setTimeout(() => URL.revokeObjectURL(address), 10_000)
}
