declare module 'jstat' {
  const jstat: {
    readonly studentt: {
      cdf(x: number, dof: number): number
      inv(p: number, dof: number): number
    }
    readonly beta: { inv(p: number, alpha: number, beta: number): number }
  }
  export default jstat
}
