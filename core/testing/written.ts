import { beforeEach } from "vitest";
import { writeAs } from "../formats/writing.ts";
import { WRITING } from "./writing.ts";

// Computations and pages are tested as in a browser, where it is said once for all how figures are written. On a server
// it is said around each computation: its tests say nothing, so that what forgets it fails.
writeAs(WRITING);
beforeEach(() => writeAs(WRITING));
