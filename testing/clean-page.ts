import { cleanup, configure } from "@testing-library/react";
import { afterEach, vi } from "vitest";

// What is waited for comes late where much else runs at once; a test that waits in vain still fails.
configure({ asyncUtilTimeout: 15_000 });

// Each test of a page begins with an empty one, and with the network as it is.
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  localStorage.clear();
});
