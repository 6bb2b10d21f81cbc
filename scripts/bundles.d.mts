/** Bundles every thread of the server, where that is not done; the folder they are in. */
export function bundleWorkers(): Promise<string>
/** Bundles a program, named from the root of the project, where that is not done; the file that Node runs. */
export function bundleProgram(file: string): Promise<string>
