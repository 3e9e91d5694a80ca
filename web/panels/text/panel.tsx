import { Fragment } from "react";
import { Link } from "react-router";
import type { Block } from "#core/panels/text/blocks.ts";
import type { TextInline } from "#core/panels/text/compute.ts";
import type { Inline } from "#core/panels/text/blocks.ts";
import { judgementColour } from "../../figures/judgement.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";

/** Words of the analyst's own, with figures that follow the frame. */
export default function TextPanel(view: PanelProps<"text">) {
  return (
    <PanelSheet
      view={view}
      label="Text"
      skeleton={
        <div className="p-4" role="status" aria-label="The text's figures are being calculated">
          <div className="waiting h-5 w-2/3" />
        </div>
      }
    >
      {(data) => (
        <div className="written px-4 pt-1.5 pb-3 font-serif text-[15.5px] leading-relaxed">
          {data.blocks.length === 0 && <p className="text-slate">No text yet.</p>}
          {data.blocks.map((block, i) => (
            <WrittenBlock key={i} block={block} onAsk={view.actions.ask} />
          ))}
        </div>
      )}
    </PanelSheet>
  );
}

function WrittenBlock({ block, onAsk }: { block: Block<TextInline>; onAsk: (figure: string) => void }) {
  switch (block.is) {
    case "heading": {
      const Heading = (["h2", "h3", "h4"] as const)[block.level - 1]!;
      return (
        <Heading className={["text-[19px]", "text-[17px]", "text-[15.5px] font-semibold"][block.level - 1]}>
          <Line line={block.line} onAsk={onAsk} />
        </Heading>
      );
    }
    case "paragraph":
      return (
        <p className="mt-1.5 first:mt-0">
          <Line line={block.line} onAsk={onAsk} />
        </p>
      );
    case "list": {
      const List = block.isOrdered ? "ol" : "ul";
      return (
        <List className={`mt-1.5 pl-5 ${block.isOrdered ? "list-decimal" : "list-disc"}`}>
          {block.items.map((item, i) => (
            <li key={i}>
              <Line line={item} onAsk={onAsk} />
            </li>
          ))}
        </List>
      );
    }
  }
}

function Line({ line, onAsk }: { line: readonly Inline<TextInline>[]; onAsk: (figure: string) => void }) {
  return line.map((piece, i) => <Fragment key={i}>{pieceOf(piece, onAsk)}</Fragment>);
}

function pieceOf(piece: Inline<TextInline>, onAsk: (figure: string) => void) {
  switch (piece.is) {
    case "text": {
      const words = piece.isEmphasized ? <em>{piece.text}</em> : piece.text;
      return piece.isStrong ? <strong>{words}</strong> : words;
    }
    case "link":
      return piece.href.startsWith("/") ? (
        <Link to={piece.href} className="text-accent underline">
          {piece.text}
        </Link>
      ) : (
        <a href={piece.href} target="_blank" rel="noreferrer" className="text-accent underline">
          {piece.text}
        </a>
      );
    case "word":
      return <span className="whitespace-nowrap">{piece.text}</span>;
    case "problem":
      return (
        <span role="alert" className="text-madder">
          [{piece.text}]
        </span>
      );
    case "figure":
      return (
        <button
          type="button"
          title={"detail" in piece.figure ? piece.figure.detail : `${piece.name}: where does it come from?`}
          aria-label={`${piece.name}, ${piece.part}: ${piece.text}. Where does it come from?`}
          className="rounded-sm text-left font-semibold underline decoration-thread decoration-dotted underline-offset-4 hover:decoration-slate"
          style={{ color: piece.judgement === null ? undefined : judgementColour(piece.judgement) }}
          onClick={() => onAsk(formatFigureAddress(piece.kpi, piece.part === "basis" ? "basis" : "actual"))}
        >
          {piece.text}
        </button>
      );
  }
}
