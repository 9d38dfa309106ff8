/** The mark: three threads that change places. */
export const Mark = () => (
  <svg
    width="28"
    height="20"
    viewBox="0 0 28 20"
    fill="none"
    strokeWidth="2.6"
    strokeLinecap="round"
    aria-hidden="true"
  >
    <path d="M2 4c8 0 9 12 24 12" stroke="var(--dye-madder)" />
    <path d="M2 16c8 0 9-12 24-12" stroke="var(--dye-lichen)" />
    <path d="M2 10h24" stroke="var(--dye-woad)" />
  </svg>
);
