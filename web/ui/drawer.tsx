import { X } from "lucide-react";
import { useEffect, useRef, type ReactNode } from "react";

/** A drawer at the page's right side that does not cover it where there is room; Escape closes it, focus goes back. */
export function Drawer({
  label,
  subject,
  onClose,
  children,
}: {
  label: string;
  /** What it is about; another subject takes the focus again. */
  subject: string;
  onClose: () => void;
  children: ReactNode;
}) {
  const drawer = useRef<HTMLElement>(null);
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    drawer.current?.focus();
    return () => before?.focus();
  }, [subject]);
  return (
    <aside
      ref={drawer}
      tabIndex={-1}
      aria-label={label}
      onKeyDown={(e) => {
        if (e.key === "Escape") onClose();
      }}
      className="sticky top-0 h-screen w-[min(430px,34vw)] min-w-[330px] shrink-0 overflow-y-auto border-l border-thread bg-panel px-5 py-4 outline-none motion-safe:animate-[slide-in_150ms_ease-out] max-[1100px]:fixed max-[1100px]:right-0 max-[1100px]:z-30 max-[1100px]:max-w-[94vw] max-[1100px]:shadow-2xl print:hidden"
    >
      <button
        type="button"
        aria-label="Close"
        onClick={onClose}
        className="float-right rounded p-1 text-slate hover:text-ink"
      >
        <X size={18} />
      </button>
      {children}
    </aside>
  );
}
