/** The mark of the app: a flight that leaves its line. */
export function Mark() {
  return (
    <svg width="38" height="20" viewBox="0 0 38 20" aria-hidden>
      <path d="M2 11h34" stroke="var(--on-spruce-quiet)" strokeWidth="1.5" strokeDasharray="1.5 3" />
      <path
        d="M2 11c9 0 11 6 17 4s6-8 16-12"
        fill="none"
        stroke="var(--color-accent-dark)"
        strokeWidth="2.6"
        strokeLinecap="round"
      />
    </svg>
  )
}
