import { Component, type ReactNode } from "react";
import { Notice } from "../ui/notice.tsx";

/** Keeps a panel that cannot be drawn from taking its page along. It is tried again when what it is made from changes. */
export class PanelBoundary extends Component<
  { readonly of: unknown; readonly children: ReactNode },
  { readonly error: Error | null; readonly of: unknown }
> {
  override state = { error: null, of: this.props.of };
  static getDerivedStateFromError(error: Error) {
    return { error };
  }
  static getDerivedStateFromProps(props: { of: unknown }, state: { of: unknown }) {
    return props.of === state.of ? null : { error: null, of: props.of };
  }
  override render() {
    if (this.state.error === null) return this.props.children;
    return (
      <section
        aria-label="A panel that cannot be drawn"
        className="h-full rounded-md border border-thread bg-panel px-4 py-8"
      >
        <Notice
          tone="bad"
          title="This panel cannot be drawn"
          detail={`Its figures are there, the drawing failed: ${(this.state.error as Error).message}. Open it as a table, or arrange it otherwise.`}
        />
      </section>
    );
  }
}
