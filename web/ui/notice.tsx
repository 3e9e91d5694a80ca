import type { ReactNode } from "react";

/** Says what is missing or wrong, and what to do about it. */
export function Notice({
  title,
  detail,
  tone = "plain",
  children,
}: {
  title: string;
  detail: string;
  tone?: "plain" | "bad";
  children?: ReactNode;
}) {
  return (
    <div
      role={tone === "bad" ? "alert" : "status"}
      className="mx-auto max-w-xl border-l-2 py-3 pl-4"
      style={{ borderColor: tone === "bad" ? "var(--madder)" : "var(--weld)" }}
    >
      <p className="font-serif text-lg">{title}</p>
      <p className="mt-1 text-slate">{detail}</p>
      {children && <div className="mt-3 flex gap-4">{children}</div>}
    </div>
  );
}
