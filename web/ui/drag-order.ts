import type { DragEvent } from "react";

/** What makes an element one of several that are dragged into another order. */
export interface DragOrderProps {
  readonly draggable: true;
  readonly onDragStart: (event: DragEvent) => void;
  readonly onDragOver: (event: DragEvent) => void;
  readonly onDrop: (event: DragEvent) => void;
}

/**
 * Elements of one list that are dragged onto each other: what is dropped takes the place of what it was dropped on.
 * `list` tells the list apart from others on the page.
 */
export function dragOrder(list: string, onMove: (key: string, onto: string) => void): (key: string) => DragOrderProps {
  const type = `application/x-hackle-${list.toLowerCase()}`;
  return (key) => ({
    draggable: true,
    onDragStart: (event) => {
      event.dataTransfer.setData(type, key);
      event.dataTransfer.effectAllowed = "move";
      event.stopPropagation();
    },
    onDragOver: (event) => {
      if (event.dataTransfer.types.includes(type)) event.preventDefault();
    },
    onDrop: (event) => {
      const dragged = event.dataTransfer.getData(type);
      if (dragged === "") return;
      event.preventDefault();
      event.stopPropagation();
      if (dragged !== key) onMove(dragged, key);
    },
  });
}

/** Items with one of them in the place of another. */
export function movedOnto<T>(items: readonly T[], item: T, onto: T): T[] {
  const [from, to] = [items.indexOf(item), items.indexOf(onto)];
  return from < 0 || to < 0 ? [...items] : items.toSpliced(from, 1).toSpliced(to, 0, item);
}
