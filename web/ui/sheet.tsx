import type { ReactNode } from "react";

/** A titled sheet of a page. */
export function Sheet({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="rounded-md border border-thread bg-panel px-4 py-3">
      <h2 className="mb-1 font-serif text-[16px]">{title}</h2>
      {children}
    </section>
  );
}
