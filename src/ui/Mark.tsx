/** The mark: three leaning lime ticks crossed by an ink stroke. */
export function Mark({ size = 28 }: { size?: number }) {
  return (
    <svg width={size} height={size * 1.07} viewBox="0 0 28 30" fill="none" strokeLinecap="round" aria-hidden="true">
      <g className="stroke-lime" strokeWidth="3.6">
        <path d="M4 26 8 4" />
        <path d="M12 26 16 4" />
        <path d="M20 26 24 4" />
      </g>
      <path d="M2 20 26 11" className="stroke-ink" strokeWidth="2.6" />
    </svg>
  );
}
