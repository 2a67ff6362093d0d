import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { z } from "zod";
import { browserSetting } from "@/ui/parts/browser/browserSetting";

const schema = z.object({ feet: z.boolean() });
const USUAL = { feet: false };

/** A browser's storage, shared by its tabs, and the tabs' ears. */
class Storage {
  readonly texts = new Map<string, string>();
  readonly ears = new Set<(event: { key: string | null }) => void>();
  isBlocked = false;
  isFull = false;

  getItem(key: string): string | null {
    if (this.isBlocked) throw new Error("blocked");
    return this.texts.get(key) ?? null;
  }

  setItem(key: string, text: string): void {
    if (this.isBlocked || this.isFull) throw new Error("no room");
    this.texts.set(key, text);
  }

  removeItem(key: string): void {
    if (this.isBlocked) throw new Error("blocked");
    this.texts.delete(key);
  }

  /** Another tab writes. */
  byAnother(key: string, text: string): void {
    this.texts.set(key, text);
    for (const ear of this.ears) ear({ key });
  }
}

let storage: Storage;

beforeEach(() => {
  storage = new Storage();
  vi.stubGlobal("localStorage", storage);
  vi.stubGlobal("window", {
    addEventListener: (_: string, ear: () => void) => storage.ears.add(ear),
    removeEventListener: (_: string, ear: () => void) => storage.ears.delete(ear),
  });
});

afterEach(() => {
  vi.unstubAllGlobals();
});

const lengths = () => browserSetting("lengths", schema, () => USUAL);

test("what was chosen is there for the next page, and the same object until it changes", () => {
  const first = lengths();
  expect(first.read()).toBe(first.read());
  first.choose({ feet: true });
  expect(first.read()).toEqual({ feet: true });
  expect(lengths().read()).toEqual({ feet: true });
  first.choose(undefined);
  expect(lengths().read()).toBe(USUAL);
});

test("whoever listens hears of a choice, of another tab's too, and of nothing else once it has left", () => {
  const setting = lengths();
  const heard = vi.fn();
  const leave = setting.subscribe(heard);
  setting.choose({ feet: true });
  expect(heard).toHaveBeenCalledTimes(1);
  storage.byAnother("lengths", '{"feet":false}');
  expect(heard).toHaveBeenCalledTimes(2);
  expect(setting.read()).toEqual({ feet: false });
  storage.byAnother("something else", "1");
  expect(heard).toHaveBeenCalledTimes(2);
  leave();
  expect(storage.ears.size).toBe(0);
});

test("what does not fit counts as not chosen, and is not written over", () => {
  for (const text of ["{", "null", '{"feet":"many"}', ""]) {
    storage.texts.set("lengths", text);
    expect(lengths().read()).toBe(USUAL);
    expect(storage.texts.get("lengths")).toBe(text);
  }
});

test("plain text that the first version kept is read, also where it looks like something else", () => {
  const person = browserSetting("person", z.string(), () => "");
  for (const name of ["Kim", "17", "true", "{"]) {
    storage.texts.set("person", name);
    expect(person.read()).toBe(name);
    person.choose(name);
    expect(person.read()).toBe(name);
  }
});

test("a browser that keeps nothing still holds the choice until the page goes", () => {
  for (const cause of ["isBlocked", "isFull"] as const) {
    storage[cause] = true;
    const setting = lengths();
    expect(setting.read()).toBe(USUAL);
    setting.choose({ feet: true });
    expect(setting.read()).toEqual({ feet: true });
    expect(setting.read()).toBe(setting.read());
    storage[cause] = false;
    expect(lengths().read()).toBe(USUAL);
    setting.choose({ feet: true });
    expect(lengths().read()).toEqual({ feet: true });
    storage.texts.clear();
  }
});
