export type Piece = { how: string; text: string };

/** Two texts as one: what went is struck through, what came is underlined, and both are said to those who listen. */
export function Differs({ pieces }: { pieces: readonly Piece[] }) {
  return (
    <p className="whitespace-pre-line">
      {pieces.map((piece, index) =>
        piece.how === "same" ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: a piece is known by its place
          <span key={index}>{piece.text}</span>
        ) : piece.how === "gone" ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: a piece is known by its place
          <del key={index} className="text-madder">
            <span className="sr">instead of </span>
            {piece.text}
          </del>
        ) : (
          // biome-ignore lint/suspicious/noArrayIndexKey: a piece is known by its place
          <ins key={index} className="bg-woad-tint">
            {piece.text}
          </ins>
        ),
      )}
    </p>
  );
}
