import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { ChevronDown, ChevronRight, GripVertical } from "lucide-react";
import { useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import type { TreeItem } from "#core/structure/tree-edit.ts";

/** Where an item is to go. */
export interface TreeMove {
  readonly key: string;
  readonly parent: string | null;
  readonly before: string | null;
}

interface ShownItem extends TreeItem {
  readonly isRetired?: boolean;
}

/** Below its upper edge a drop goes before the row, at its middle below it as a child. */
const EDGE = 0.3;

/**
 * A tree that is read and rearranged: rows are dragged by their grip, or moved by Alt and
 * the arrow keys; arrows alone walk and fold it.
 */
export function TreeEditor<T extends ShownItem>({
  label,
  items,
  chosen,
  onChoose,
  onMove,
  details,
}: {
  label: string;
  items: readonly T[];
  chosen: string | null;
  onChoose: (key: string) => void;
  onMove: (move: TreeMove) => void;
  /** What stands at the right of a row. */
  details: (item: T) => ReactNode;
}) {
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [over, setOver] = useState<{ key: string; where: "before" | "inside" } | null>(null);
  const list = useRef<HTMLUListElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const byKey = new Map(items.map((item) => [item.key, item]));
  const childrenOf = (key: string | null) => items.filter((item) => item.parent === key);
  const depthOf = (item: TreeItem): number => (item.parent === null ? 0 : 1 + depthOf(byKey.get(item.parent)!));
  const isHidden = (item: TreeItem): boolean =>
    item.parent !== null && (folded.has(item.parent) || isHidden(byKey.get(item.parent)!));
  const isInside = (key: string | null, top: string): boolean =>
    key !== null && (key === top || isInside(byKey.get(key)?.parent ?? null, top));
  const shown = items.filter((item) => !isHidden(item));
  const fold = (key: string, isFolded: boolean) => {
    const next = new Set(folded);
    if (isFolded) next.add(key);
    else next.delete(key);
    setFolded(next);
  };
  const focus = (key: string) => {
    onChoose(key);
    requestAnimationFrame(() => list.current?.querySelector<HTMLElement>(`[data-key="${CSS.escape(key)}"]`)?.focus());
  };
  const moveByKey = (item: T, arrow: string) => {
    const siblings = childrenOf(item.parent);
    const at = siblings.indexOf(item);
    if (arrow === "ArrowUp" && at > 0) onMove({ key: item.key, parent: item.parent, before: siblings[at - 1]!.key });
    if (arrow === "ArrowDown" && at < siblings.length - 1)
      onMove({ key: item.key, parent: item.parent, before: siblings[at + 2]?.key ?? null });
    if (arrow === "ArrowRight" && at > 0) onMove({ key: item.key, parent: siblings[at - 1]!.key, before: null });
    if (arrow === "ArrowLeft" && item.parent !== null) {
      const parent = byKey.get(item.parent)!;
      const aunts = childrenOf(parent.parent);
      onMove({ key: item.key, parent: parent.parent, before: aunts[aunts.indexOf(parent) + 1]?.key ?? null });
    }
  };
  const onKey = (event: KeyboardEvent, item: T) => {
    if (!event.key.startsWith("Arrow")) return;
    event.preventDefault();
    if (event.altKey) {
      moveByKey(item, event.key);
      return focus(item.key);
    }
    const at = shown.indexOf(item);
    if (event.key === "ArrowUp" && shown[at - 1]) focus(shown[at - 1]!.key);
    if (event.key === "ArrowDown" && shown[at + 1]) focus(shown[at + 1]!.key);
    if (event.key === "ArrowLeft") {
      if (childrenOf(item.key).length > 0 && !folded.has(item.key)) fold(item.key, true);
      else if (item.parent !== null) focus(item.parent);
    }
    if (event.key === "ArrowRight") {
      if (folded.has(item.key)) fold(item.key, false);
      else if (childrenOf(item.key)[0]) focus(childrenOf(item.key)[0]!.key);
    }
  };
  const drop = ({ active }: DragEndEvent) => {
    const target = over && byKey.get(over.key);
    setOver(null);
    const key = String(active.id);
    if (!target || isInside(target.key, key)) return;
    if (over.where === "inside") onMove({ key, parent: target.key, before: null });
    else onMove({ key, parent: target.parent, before: target.key });
  };
  return (
    <DndContext
      sensors={sensors}
      onDragMove={({ active, over: below, delta, activatorEvent }) => {
        if (!below || isInside(String(below.id), String(active.id))) return setOver(null);
        const y = (activatorEvent as PointerEvent).clientY + delta.y;
        const share = (y - below.rect.top) / Math.max(1, below.rect.height);
        setOver({ key: String(below.id), where: share < EDGE ? "before" : "inside" });
      }}
      onDragEnd={drop}
      onDragCancel={() => setOver(null)}
    >
      <ul ref={list} role="tree" aria-label={label} className="text-[13.5px]">
        {shown.map((item, i) => {
          const isParent = childrenOf(item.key).length > 0;
          return (
            <Row
              key={item.key}
              item={item}
              depth={depthOf(item)}
              isChosen={item.key === chosen}
              isFirstStop={chosen === null ? i === 0 : item.key === chosen}
              over={over?.key === item.key ? over.where : null}
              fold={
                isParent ? { isFolded: folded.has(item.key), turn: () => fold(item.key, !folded.has(item.key)) } : null
              }
              onChoose={() => onChoose(item.key)}
              onKey={(event) => onKey(event, item)}
            >
              {details(item)}
            </Row>
          );
        })}
      </ul>
    </DndContext>
  );
}

function Row({
  item,
  depth,
  isChosen,
  isFirstStop,
  over,
  fold,
  onChoose,
  onKey,
  children,
}: {
  item: ShownItem;
  depth: number;
  isChosen: boolean;
  isFirstStop: boolean;
  over: "before" | "inside" | null;
  fold: { isFolded: boolean; turn: () => void } | null;
  onChoose: () => void;
  onKey: (event: KeyboardEvent) => void;
  children: ReactNode;
}) {
  const { setNodeRef: setGrip, listeners, isDragging } = useDraggable({ id: item.key });
  const { setNodeRef: setPlace } = useDroppable({ id: item.key });
  return (
    <li
      ref={setPlace}
      role="treeitem"
      data-key={item.key}
      aria-level={depth + 1}
      aria-selected={isChosen}
      aria-expanded={fold ? !fold.isFolded : undefined}
      tabIndex={isFirstStop ? 0 : -1}
      onKeyDown={onKey}
      onClick={onChoose}
      className={`flex min-h-7 cursor-default items-center gap-1 border-t pr-2 ${over === "before" ? "border-accent" : "border-thread/50"} ${over === "inside" ? "bg-chosen outline outline-indigo" : isChosen ? "bg-chosen" : ""} ${isDragging ? "opacity-40" : ""}`}
      style={{ paddingLeft: depth * 20 }}
    >
      <span ref={setGrip} {...listeners} className="cursor-grab text-slate/60" aria-hidden="true">
        <GripVertical size={14} />
      </span>
      <span
        className="grid size-5 place-items-center text-slate"
        aria-hidden="true"
        onClick={(event) => {
          event.stopPropagation();
          fold?.turn();
        }}
      >
        {fold && (fold.isFolded ? <ChevronRight size={14} /> : <ChevronDown size={14} />)}
      </span>
      <span
        className={`min-w-0 flex-1 truncate ${fold ? "font-semibold" : ""} ${item.isRetired ? "text-slate line-through" : ""}`}
      >
        {item.name}
      </span>
      {children}
    </li>
  );
}
