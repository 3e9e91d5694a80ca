import type { Locator, Page } from "@playwright/test";

/** More stops than any page has. */
const MOST_STOPS = 400;
/** So many stops are taken before it is asked whether the control was reached: asking takes longer than a stop. */
const STRIDE = 12;

/** Walks with Tab until a control has the focus; fails where the keyboard does not lead there. */
export async function tabTo(page: Page, target: Locator): Promise<void> {
  const control = target.first();
  await control.waitFor();
  // One that has the focus already is walked to all the same, from the next stop on.
  const brake = await control.evaluateHandle((element) => {
    let isOff = true;
    const hold = (event: KeyboardEvent) => {
      if (event.key !== "Tab" || isOff || element !== document.activeElement) {
        isOff = false;
        return;
      }
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    window.addEventListener("keydown", hold, true);
    return {
      isThere: () => !isOff && element === document.activeElement,
      end: () => window.removeEventListener("keydown", hold, true),
    };
  });
  try {
    for (let stop = 0; stop < MOST_STOPS; stop += STRIDE) {
      await pressTabs(page, STRIDE);
      if (await brake.evaluate(({ isThere }) => isThere())) return;
    }
  } finally {
    await brake.evaluate(({ end }) => end());
  }
  throw new Error(`No way by Tab to ${target.toString()}.`);
}

/** Presses Tab so many times, as keys that come one after the other without waiting for what each of them does. */
async function pressTabs(page: Page, count: number): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const tab = { key: "Tab", code: "Tab", windowsVirtualKeyCode: 9 };
  const sent = Array.from({ length: count }).flatMap(() => [
    session.send("Input.dispatchKeyEvent", { type: "rawKeyDown", ...tab }),
    session.send("Input.dispatchKeyEvent", { type: "keyUp", ...tab }),
  ]);
  await Promise.all(sent);
  await session.detach();
}

/** Walks to a control and presses it. */
export async function pressOn(page: Page, target: Locator, key = "Enter"): Promise<void> {
  await tabTo(page, target);
  await page.keyboard.press(key);
}

/** Walks to a field and writes into it, in the place of what it held. */
export async function writeInto(page: Page, target: Locator, text: string): Promise<void> {
  await tabTo(page, target);
  await page.keyboard.press("Control+a");
  await page.keyboard.type(text);
}

/** Walks to a list of choices and types what is wanted, as people do. */
export async function chooseIn(page: Page, target: Locator, option: string): Promise<void> {
  await tabTo(page, target);
  await page.keyboard.type(option);
}
