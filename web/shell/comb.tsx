/** Hackle's mark: the comb that straightens flax. */
export function Comb({ size = 20 }: { size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 20 20"
      aria-hidden="true"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.6"
      strokeLinecap="round"
    >
      <path d="M2.5 14.5h15v3h-15z" fill="currentColor" strokeLinejoin="round" />
      <path d="M4 14V5.5M8 14V2.5M12 14V2.5M16 14V5.5" />
    </svg>
  );
}
