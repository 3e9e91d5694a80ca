import { join } from "node:path";
import { PROJECT } from "../home.ts";

/** The data folder of the tests' own cluster. */
export const TEST_HOME = join(PROJECT, ".hackle/test");
