/** Signs that a reader of Markdown looks twice at: brackets, stars, numbers of lists, line breaks and the like. */
const MARK = /[*_[\](){}!<>`#&\\=~+\-\n]|\d[.)]/g;
/** What a reader of Markdown takes grows with the square of the marks it reads together; people write a few dozen. */
const MOST_MARKS = 300;

/** A part of a text: Markdown, or what stands as it is written. */
export interface TextPiece {
  readonly text: string;
  readonly isPlain: boolean;
}

/**
 * A text in pieces that are read one after the other, so that reading it takes as long as it is and no longer. A text as
 * people write it is one piece; others are cut between paragraphs, else between lines, and a line that is nothing but
 * marks stands as it is written from where they are too many. Pieces joined are the text.
 */
export function textPieces(text: string): TextPiece[] {
  if (countMarks(text) <= MOST_MARKS) return [{ text, isPlain: false }];
  const pieces: TextPiece[] = [];
  let piece = "";
  let marks = 0;
  const close = () => {
    if (piece !== "") pieces.push({ text: piece, isPlain: false });
    [piece, marks] = ["", 0];
  };
  const add = (part: string) => {
    const own = countMarks(part);
    if (marks + own > MOST_MARKS) close();
    piece += part;
    marks += own;
  };
  for (const paragraph of text.split(/(?<=\n[ \t]*\n)/)) {
    if (countMarks(paragraph) <= MOST_MARKS) {
      add(paragraph);
      continue;
    }
    for (const line of paragraph.split(/(?<=\n)/)) {
      const end = endOfMarked(line);
      add(line.slice(0, end));
      if (end === line.length) continue;
      close();
      pieces.push({ text: line.slice(end), isPlain: true });
    }
  }
  close();
  return pieces;
}

/** Where in a line its marks become too many; its end where they do not. */
function endOfMarked(line: string): number {
  let seen = 0;
  for (const mark of line.matchAll(MARK)) {
    seen += 1;
    if (seen > MOST_MARKS) return mark.index;
  }
  return line.length;
}

function countMarks(text: string): number {
  return text.match(MARK)?.length ?? 0;
}
