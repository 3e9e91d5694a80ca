import { createWriteStream } from "node:fs";
import { once } from "node:events";

const ACCOUNTS = [
  "Passenger fares",
  "Vehicle fares",
  "Freight carriage",
  "Marine fuel",
  "Crew wages",
  "Port dues",
  "Repairs",
];
const ROUTES = ["Tarn Point–Osk", "Vardel–Isenholm", "Lissa Bank–Hollin", "Isenholm–Fallow Strand"];
const SERVICES = ["Passengers", "Vehicles", "Freight", "On board"];
const CENTRES = ["Deck crew", "Sales", "Workshop", "Vardel port"];

/** Writes a ledger of so many rows and eight columns as CSV; the same every time. */
export async function writeLedger(path: string, rows: number): Promise<void> {
  const out = createWriteStream(path);
  let chunk = "Period,Account,Route,Service line,Cost centre,Amount,Units,Document\r\n";
  for (let i = 0; i < rows; i += 1) {
    const amount = `${((i * 7919) % 90_000) + 10}.${String(10 + (i % 90))}`;
    chunk += `2026-11,${ACCOUNTS[i % 7]},${ROUTES[i % 4]},${SERVICES[i % 3]},${CENTRES[i % 4]},${amount},,D${i}\r\n`;
    if (chunk.length > 1_000_000) {
      if (!out.write(chunk)) await once(out, "drain");
      chunk = "";
    }
  }
  out.end(chunk);
  await once(out, "finish");
}
