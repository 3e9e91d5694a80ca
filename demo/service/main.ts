import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { createService } from "./service.ts";

// Runs the simulated service on a port of its own, reached like any other; tells its launcher which.
const server = createServer(createService());
server.listen(Number(process.env["PORT"] ?? 0), "127.0.0.1", () => {
  process.send?.({ port: (server.address() as AddressInfo).port });
});
// When the launcher goes, however it goes, the service goes too.
process.once("disconnect", () => process.exit(0));
for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, () => process.exit(0));
