import { cleanup } from "@testing-library/react";
import { afterEach, vi } from "vitest";

// Each test of a page begins with an empty one, and with the network as it is.
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  localStorage.clear();
});
