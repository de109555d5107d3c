/** The product's sign: a ring that opens. */
export function Mark() {
  return (
    <svg width="24" height="24" viewBox="0 0 24 24" fill="none" strokeLinecap="round" aria-hidden>
      <path d="M17.5 5.2A9 9 0 1 0 21 12" stroke="#f2a900" strokeWidth="3" />
      <path d="M12 12 21 3" stroke="#fff" strokeWidth="2.4" />
    </svg>
  );
}
