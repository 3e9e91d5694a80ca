import { lazy, type ComponentType, type LazyExoticComponent } from "react";

interface Module<P> {
  readonly default: ComponentType<P>;
}

/** A part of the client whose code comes when it is first needed, or is fetched before by `load`. */
export type LazyPart<P> = LazyExoticComponent<ComponentType<P>> & { load(): Promise<void> };

/**
 * A part of the client whose code comes when it is first needed. Once it is there the part is drawn at once: what is
 * merely lazy is left out for a moment the first time, even with its code at hand.
 */
export function lazyPart<P>(fetchCode: () => Promise<Module<P>>): LazyPart<P> {
  let loaded: Module<P> | undefined;
  const fetchOnce = async () => (loaded ??= await fetchCode());
  // What `lazy` does with a promise it does in the same breath with what calls back in the same breath.
  const atHand = (code: Module<P>) =>
    ({ then: (resolve: (code: Module<P>) => void) => resolve(code) }) as unknown as Promise<Module<P>>;
  const Part = lazy(() => (loaded === undefined ? fetchOnce() : atHand(loaded)));
  return Object.assign(Part, {
    load: async () => {
      await fetchOnce();
    },
  });
}
