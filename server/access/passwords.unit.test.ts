import { describe, expect, it } from "vitest";
import { hashPassword, verifyPassword } from "./passwords.ts";

describe("passwords", () => {
  it("fit their own hash only", async () => {
    const hash = await hashPassword("quillhaven");
    expect(await verifyPassword("quillhaven", hash)).toBe(true);
    expect(await verifyPassword("Quillhaven", hash)).toBe(false);
    expect(await verifyPassword("", hash)).toBe(false);
  });
  it("are salted: the same password never hashes alike", async () => {
    expect(await hashPassword("quillhaven")).not.toBe(await hashPassword("quillhaven"));
  });
  it("fit whichever way their letters were composed on the keyboard", async () => {
    const hash = await hashPassword("h\u00f6he");
    expect(await verifyPassword("ho\u0308he", hash)).toBe(true);
  });
  it("never fit what is no hash of ours", async () => {
    for (const hash of ["", "scrypt", "scrypt$16384$8$1$$", "bcrypt$1$2$3$4$5"]) {
      expect(await verifyPassword("x", hash)).toBe(false);
    }
  });
});
