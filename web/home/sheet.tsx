import type { ReactNode } from "react";

/** A titled list of ways to go on. */
export function Sheet({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="min-w-0 rounded-md border border-thread bg-panel px-5 py-3">
      <h2 className="font-serif text-[16px]">{title}</h2>
      <ul className="mt-1 [&>li]:border-t [&>li]:border-thread/60 [&>li]:py-1.5 [&>li:first-child]:border-0">
        {children}
      </ul>
    </section>
  );
}
