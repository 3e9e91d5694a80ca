import { createWriteStream } from "node:fs";
import { once } from "node:events";

const REGIONS = ["North", "South", "East", "West", "Overseas"];

/** Writes a stranger's list of sales as CSV: so many rows, customers and 60 products over two years; the same every time. */
export async function writeSalesList(path: string, rows: number, customers = 5000): Promise<void> {
  const out = createWriteStream(path);
  let chunk = "Invoice date,Customer,Product,Region,Net amount,Quantity\r\n";
  for (let i = 0; i < rows; i += 1) {
    const at = (i * 7919) % 1_000_003;
    const month = at % 24;
    const date = `${2025 + Math.floor(month / 12)}-${String((month % 12) + 1).padStart(2, "0")}-${String((at % 28) + 1).padStart(2, "0")}`;
    const customer = (i * 31 + at) % customers;
    chunk += `${date},Customer ${String(customer).padStart(5, "0")},Product ${at % 60},${REGIONS[customer % 5]},${(at % 90_000) + 10}.${String(10 + (i % 90))},${(i % 9) + 1}\r\n`;
    if (chunk.length > 1_000_000) {
      if (!out.write(chunk)) await once(out, "drain");
      chunk = "";
    }
  }
  out.end(chunk);
  await once(out, "finish");
}
