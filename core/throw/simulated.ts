/** The note of a throw that names what threw it, where that was no person. */
export const THROWN_BY = 'thrown_by'

/** Whether a throw was made by a simulated thrower: it is arithmetic, and nobody threw it. */
export const isSimulated = ({ notes }: { readonly notes?: Readonly<Record<string, string>> }): boolean =>
  notes?.[THROWN_BY] !== undefined

/** How many throws of a trial are simulated, as a disclosure has to say it; undefined where none is. */
export function simulatedWords(simulated: number, of: number): string | undefined {
  if (simulated === 0) return undefined
  const which =
    simulated === of
      ? of === 1
        ? 'The one throw was'
        : `All ${of} throws were`
      : `${simulated} of ${of} throws ${simulated === 1 ? 'was' : 'were'}`
  return `${which} made by a simulated volunteer, not by a person: they follow from the flight model and say nothing of real discs.`
}
