/** The mark: two threads over two. */
export function Mark() {
  return (
    <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
      <path d="M6 1v18M14 1v18" stroke="#e2ae2b" strokeWidth="2.6" />
      <path d="M1 6h18M1 14h18" stroke="#8fb0d8" strokeWidth="2.6" />
      <path d="M6 3.5v5M14 11.5v5" stroke="#e2ae2b" strokeWidth="2.6" />
    </svg>
  );
}
