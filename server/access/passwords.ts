import { randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from "node:crypto";

/** Cost by RFC 7914's advice for interactive sign-in: 16 MiB, some 50 ms. */
const COST: ScryptOptions = { N: 2 ** 14, r: 8, p: 1 };
const KEY_LENGTH = 32;

/** A salted scrypt hash, written so that a later cost can be told from this one. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await derive(password, salt, COST);
  return ["scrypt", COST.N, COST.r, COST.p, salt.toString("base64"), key.toString("base64")].join("$");
}

/** Whether the password is the one the hash was made of; compared in constant time. */
export async function verifyPassword(password: string, hash: string): Promise<boolean> {
  const [scheme, n, r, p, salt, key] = hash.split("$");
  if (scheme !== "scrypt" || !salt || !key) return false;
  const expected = Buffer.from(key, "base64");
  const found = await derive(password, Buffer.from(salt, "base64"), { N: Number(n), r: Number(r), p: Number(p) });
  return expected.length === found.length && timingSafeEqual(expected, found);
}

function derive(password: string, salt: Buffer, cost: ScryptOptions): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    scrypt(password.normalize("NFKC"), salt, KEY_LENGTH, cost, (error, key) => (error ? reject(error) : resolve(key)));
  });
}
