import { createWriteStream } from "node:fs";
import { once } from "node:events";

const REGIONS = ["North", "South", "East", "West", "Overseas"];

/** Writes a stranger's list of sales as CSV: so many rows, customers and products over two years; the same every time. Three in four lines are of a hundredth of the customers and products, as few buy and are bought most. */
export async function writeSalesList(
  path: string,
  rows: number,
  { customers, products = 60, firstYear = 2025 }: { customers: number; products?: number; firstYear?: number },
): Promise<void> {
  const out = createWriteStream(path);
  let chunk = "Invoice date,Customer,Product,Region,Net amount,Quantity\r\n";
  for (let i = 0; i < rows; i += 1) {
    const at = (i * 7919) % 1_000_003;
    const month = at % 24;
    const date = `${firstYear + Math.floor(month / 12)}-${String((month % 12) + 1).padStart(2, "0")}-${String((at % 28) + 1).padStart(2, "0")}`;
    const share = i % 4 === 0 ? 1 : 100;
    const customer = (i * 31 + at) % Math.ceil(customers / share);
    const product = at % Math.ceil(products / share);
    chunk += `${date},Customer ${String(customer).padStart(5, "0")},Product ${product},${REGIONS[customer % 5]},${(at % 90_000) + 10}.${String(10 + (i % 90))},${(i % 9) + 1}\r\n`;
    if (chunk.length > 1_000_000) {
      if (!out.write(chunk)) await once(out, "drain");
      chunk = "";
    }
  }
  out.end(chunk);
  await once(out, "finish");
}
