// Processes do not inherit their parent's loader: they learn to read TypeScript by themselves.
import { register } from "tsx/esm/api";

register();
await import("./task-program.ts");
