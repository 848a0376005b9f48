import { Popover } from "radix-ui";
import { Fragment, memo } from "react";
import { type ReadPiece, ROLES, type Role } from "../../../../core/mapping";
import { proposing } from "../../../state/proposing";
import { cx } from "../../../widgets/class-names";
import { ROLE_LOOKS } from "./role-looks";

interface NamePiecesProps {
  readonly path: string;
  readonly pieces: readonly ReadPiece[];
  /** Which name of the set it is. */
  readonly index: number;
  /** The piece whose meanings are shown; −1 for none. */
  readonly open: number;
  readonly onOpen: (piece: number) => void;
}

/** A name with its pieces marked by what they are taken for; a click on one says what else it is. */
export const NamePieces = memo(function NamePieces({ path, pieces, index, open, onOpen }: NamePiecesProps) {
  let at = 0;
  return (
    <span className="num whitespace-pre">
      {pieces.map((piece, p) => {
        const before = path.slice(at, piece.start);
        at = piece.end;
        const text = path.slice(piece.start, piece.end);
        return (
          <Fragment key={piece.start}>
            <span className="text-ink-faint">{before}</span>
            <Piece
              text={text}
              role={piece.role}
              open={open === p}
              onOpen={(on) => onOpen(on ? p : -1)}
              onTake={(role) => void proposing.fix(index, p, role)}
            />
          </Fragment>
        );
      })}
      <span className="text-ink-faint">{path.slice(at)}</span>
    </span>
  );
});

interface PieceProps {
  readonly text: string;
  readonly role: Role | null;
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  readonly onTake: (role: Role | null) => void;
}

function Piece({ text, role, open, onOpen, onTake }: PieceProps) {
  const said = role ? ROLE_LOOKS[role].label : "means nothing";
  const button = (
    <button
      type="button"
      aria-label={`${text}: ${said}`}
      title={said}
      onClick={() => onOpen(!open)}
      className={cx(
        "rounded-none px-px leading-[1.15] hover:bg-tint-cobalt",
        role ? cx("text-ink", ROLE_LOOKS[role].line) : "text-ink-soft",
        open && "bg-tint-cobalt",
      )}
    >
      {text}
    </button>
  );
  if (!open) return button;
  const take = (next: Role | null) => {
    onOpen(false);
    if (next !== role) onTake(next);
  };
  return (
    <Popover.Root open onOpenChange={onOpen}>
      <Popover.Anchor asChild>{button}</Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={8}
          aria-label={`What ${text} means`}
          className="z-40 flex w-44 flex-col rounded-m border border-ink bg-sheet p-1"
        >
          {[...ROLES, null].map((r) => (
            <button
              key={r ?? "nothing"}
              type="button"
              aria-pressed={r === role}
              onClick={() => take(r)}
              className={cx("rounded-s px-2 py-1 text-left hover:bg-well", r === role && "font-semibold")}
            >
              {r ? ROLE_LOOKS[r].label : "means nothing"}
            </button>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
